/**
 * What is not saved yet, kept by the browser: it outlives a reload, a closed tab and a browser that falls over.
 *
 * Each tab keeps its own. A tab that is open holds a lock of its name; what a tab without its lock has left behind is
 * taken up by whoever opens the document next.
 */
import { drop, put } from "./vault";

export type Unsaved<D = unknown> = { document: D; madeOn: number; at: string; sent?: D };

const PREFIX = "isotact/unsaved/";
const TAB_KEY = "isotact/tab";

const fresh = () => Math.random().toString(36).slice(2);
const lockOf = (name: string) => `isotact-tab-${name}`;

let tab = "";

/** Give this tab its name: the one that it had before a reload, unless a copy of the tab has it already. */
function enter(): string {
  if (tab) return tab;
  tab = sessionStorage.getItem(TAB_KEY) ?? fresh();
  hold(tab);
  return tab;
}

function hold(name: string): void {
  sessionStorage.setItem(TAB_KEY, name);
  // Held for as long as the tab is there.
  void navigator.locks?.request(lockOf(name), { ifAvailable: true }, (lock) => {
    if (lock) return new Promise<void>(() => {});
    tab = fresh();
    hold(tab);
  });
}

const keyOf = (path: string, owner = enter()) => `${PREFIX}${path}/${owner}`;

function read<D>(key: string): Unsaved<D> | undefined {
  try {
    const found = JSON.parse(localStorage.getItem(key) ?? "null") as Unsaved<D> | null;
    return found && typeof found.madeOn === "number" && found.document ? found : undefined;
  } catch {
    return undefined;
  }
}

/** Keep what is not saved, and what was sent without an answer; false where the browser has no room for it. */
export function keep<D>(path: string, document: D, madeOn: number, sent?: D): boolean {
  try {
    put(keyOf(path), JSON.stringify({ document, madeOn, at: new Date().toISOString(), sent }));
    return true;
  } catch {
    return false;
  }
}

/** All is saved. */
export const forget = (path: string) => {
  if (localStorage.getItem(keyOf(path)) !== null) drop(keyOf(path));
};

/** What was left unsaved of a document: by this tab, or by one that is no longer there. It is this tab's from now on. */
export async function left<D>(path: string): Promise<Unsaved<D> | undefined> {
  const open = new Set(((await navigator.locks?.query())?.held ?? []).map((lock) => lock.name));
  // From here on nothing is waited for: an edit made meanwhile is this tab's own, and comes first.
  const mine = read<D>(keyOf(path));
  if (mine) return mine;
  for (const key of owners(path)) {
    const owner = key.slice(key.lastIndexOf("/") + 1);
    if (open.has(lockOf(owner))) continue;
    const found = read<D>(key);
    drop(key);
    if (found) {
      keep(path, found.document, found.madeOn, found.sent);
      return found;
    }
  }
  return undefined;
}

const owners = (path: string) => Object.keys(localStorage).filter((key) => key.startsWith(`${PREFIX}${path}/`));

/** The documents of a kind that something is left unsaved of, by id. */
export function idsLeft(kind: string): string[] {
  const start = `${PREFIX}${kind}/`;
  const ids = Object.keys(localStorage)
    .filter((key) => key.startsWith(start))
    .map((key) => key.slice(start.length).split("/")[0]!);
  return [...new Set(ids)].sort();
}
