/**
 * What was done and is not in the log yet: it waits in line in this browser, through a reload and a closed tab.
 *
 * Each entry has an id of its own, so that any tab may send it, and one that is sent twice counts once.
 */
import { drop, put } from "./vault";

export type Waiting<W extends string = string> = {
  uid: string;
  what: W;
  subject: string;
  /** By this machine's clock: only how long ago it was is ever sent. */
  at: number;
  reason?: string;
  /** What was read, shown, given or tried besides, as it goes into the log. */
  more?: Record<string, unknown>;
  /** Who did it, as they called themselves then. */
  person?: string;
  /** The revision that was looked at, where that was saved. */
  revision?: number;
};

const WEEK_S = 7 * 24 * 3600;
const YEAR_S = 365 * 24 * 3600;
/** When it was put in line, by a clock that nobody sets; known as long as this page is open. */
const since = new Map<string, number>();

/**
 * How many seconds ago something was done that is in line. A clock that jumped meanwhile tells nothing: by that a tick would
 * be done before the day began, or after today. It then counts as done now.
 */
export function agoS(waiting: Waiting, now = Date.now(), ticking = performance.now()): number {
  const known = since.get(waiting.uid);
  const ago = known === undefined ? (now - waiting.at) / 1000 : (ticking - known) / 1000;
  if (!Number.isFinite(ago) || ago < 0 || ago > YEAR_S) return 0;
  // Longer than that nobody is out of reach: the server takes no more.
  return Math.min(ago, WEEK_S);
}

const PREFIX = "isotact/line/";
const NONE: readonly Waiting[] = [];
/** What the browser had no room for: it waits as long as this page is open. */
const unstored = new Map<string, Waiting[]>();
const listeners = new Set<() => void>();
const seen = new Map<string, readonly Waiting[]>();

const startOf = (path: string) => `${PREFIX}${path}/`;

function changed(path?: string): void {
  if (path === undefined) seen.clear();
  else seen.delete(path);
  listeners.forEach((listener) => listener());
}

/** Hear of it when something is put in line or has left it, in another tab too. */
export function listenToLine(listener: () => void): () => void {
  const elsewhere = (event: StorageEvent) => (event.key === null || event.key.startsWith(PREFIX)) && changed();
  listeners.add(listener);
  window.addEventListener("storage", elsewhere);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("storage", elsewhere);
  };
}

/** What waits about one thing, in the order in which it was done. The same array until something changes. */
export function inLine(path: string): readonly Waiting[] {
  const known = seen.get(path);
  if (known) return known;
  const start = startOf(path);
  const found = Object.keys(localStorage)
    .filter((key) => key.startsWith(start))
    .flatMap((key) => read(key))
    .concat(unstored.get(path) ?? [])
    .sort((one, other) => one.at - other.at || one.uid.localeCompare(other.uid));
  const all = found.length ? found : NONE;
  seen.set(path, all);
  return all;
}

function read(key: string): Waiting[] {
  try {
    const found = JSON.parse(localStorage.getItem(key) ?? "null") as Waiting | null;
    return found && typeof found.at === "number" && typeof found.uid === "string" ? [found] : [];
  } catch {
    return [];
  }
}

let number = 0;

/** Put what was done in line; false where the browser has no room for it, so that it is lost when the page is closed. */
export function putInLine(path: string, done: readonly Omit<Waiting, "uid" | "at">[], at = Date.now()): boolean {
  for (const one of done) {
    const waiting = { ...one, uid: `${crypto.getRandomValues(new Uint32Array(3)).join("-")}-${number++}`, at };
    since.set(waiting.uid, performance.now());
    try {
      put(startOf(path) + waiting.uid, JSON.stringify(waiting));
    } catch {
      unstored.set(path, [...(unstored.get(path) ?? []), waiting]);
    }
  }
  changed(path);
  return !unstored.get(path)?.length;
}

/** It is in the log, or was refused for good. */
export function leaveLine(path: string, those: readonly Waiting[]): void {
  const gone = new Set(those.map(({ uid }) => uid));
  for (const uid of gone) {
    drop(startOf(path) + uid);
    since.delete(uid);
  }
  unstored.set(
    path,
    (unstored.get(path) ?? []).filter(({ uid }) => !gone.has(uid)),
  );
  changed(path);
}
