/**
 * What must outlive a browser that is killed.
 *
 * A browser writes `localStorage` to the disk some seconds later, and its database, where it is asked to be strict, before it
 * says that it did. So what was done is put into both: the first is read without waiting, the second brings back what the
 * first lost. Where there is no such database, the first is all there is.
 */
const NAME = "isotact";
const STORE = "kept";

/** What is not in the database yet: key -> text, or nothing where it goes. */
const behind = new Map<string, string | undefined>();
const listeners = new Set<() => void>();
let isWriting = false;
let database: Promise<IDBDatabase | undefined> | undefined;

const opened = () => (database ??= open());

function open(): Promise<IDBDatabase | undefined> {
  return new Promise((resolve) => {
    if (typeof indexedDB === "undefined") return resolve(undefined);
    const request = indexedDB.open(NAME, 1);
    request.onupgradeneeded = () => request.result.createObjectStore(STORE);
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => resolve(undefined);
  });
}

/** Keep a text; throws where the browser has no room. It outlives a kill once nothing is `behind` any more. */
export function put(key: string, text: string): void {
  localStorage.setItem(key, text);
  later(key, text);
}

export function drop(key: string): void {
  localStorage.removeItem(key);
  later(key, undefined);
}

function later(key: string, text: string | undefined): void {
  behind.set(key, text);
  if (!isWriting) void write();
}

/** One transaction after the other: what changes while one is under way goes with the next, and only as it is then. */
async function write(): Promise<void> {
  isWriting = true;
  const into = await opened();
  while (behind.size > 0) {
    const some = [...behind];
    if (into) await commit(into, some).catch(() => undefined);
    for (const [key, text] of some) if (behind.get(key) === text) behind.delete(key);
  }
  isWriting = false;
  listeners.forEach((listener) => listener());
}

function commit(into: IDBDatabase, some: readonly (readonly [string, string | undefined])[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const work = into.transaction(STORE, "readwrite", { durability: "strict" });
    work.oncomplete = () => resolve();
    work.onabort = work.onerror = () => reject(work.error);
    const store = work.objectStore(STORE);
    for (const [key, text] of some) {
      if (text === undefined) store.delete(key);
      else store.put(text, key);
    }
  });
}

/** Whether something was put here that a kill would still take. */
export const isBehind = () => behind.size > 0;

/** Hear of it when all is on the disk. */
export function listenToVault(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Bring back what was kept and is not there any more. What the browser has no room for stays in its database. */
export async function recover(): Promise<void> {
  const from = await opened();
  if (!from) return;
  const found = await everything(from);
  for (const [key, text] of found) {
    try {
      if (localStorage.getItem(key) === null && !behind.has(key)) localStorage.setItem(key, text);
    } catch {
      return;
    }
  }
}

function everything(from: IDBDatabase): Promise<[string, string][]> {
  return new Promise((resolve) => {
    const found: [string, string][] = [];
    const walk = from.transaction(STORE).objectStore(STORE).openCursor();
    walk.onerror = () => resolve(found);
    walk.onsuccess = () => {
      const at = walk.result;
      if (!at) return resolve(found);
      found.push([String(at.key), String(at.value)]);
      at.continue();
    };
  });
}
