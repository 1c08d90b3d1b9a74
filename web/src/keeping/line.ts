/**
 * What was done and is not in the log yet: it waits in line in this browser, through a reload and a closed tab.
 *
 * Each entry has an id of its own, so that any tab may send it, and one that is sent twice counts once.
 */
export type Waiting<W extends string = string> = {
  uid: string;
  what: W;
  subject: string;
  /** By this machine's clock: only how long ago it was is ever sent. */
  at: number;
  reason?: string;
  /** The revision that was looked at, where that was saved. */
  revision?: number;
};

const PREFIX = "isotact/line/";
const NONE: readonly Waiting[] = [];
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

/** Put what was done in line; false where the browser has no room for it. */
export function putInLine(path: string, done: readonly Omit<Waiting, "uid" | "at">[], at = Date.now()): boolean {
  try {
    for (const one of done) {
      const uid = `${crypto.getRandomValues(new Uint32Array(3)).join("-")}-${number++}`;
      localStorage.setItem(startOf(path) + uid, JSON.stringify({ ...one, uid, at } satisfies Waiting));
    }
    return true;
  } catch {
    return false;
  } finally {
    changed(path);
  }
}

/** It is in the log, or was refused for good. */
export function leaveLine(path: string, those: readonly Waiting[]): void {
  for (const { uid } of those) localStorage.removeItem(startOf(path) + uid);
  changed(path);
}
