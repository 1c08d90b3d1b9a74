import { useCallback, useSyncExternalStore } from "react";

const KEY = "isotact/person";
const listeners = new Set<() => void>();

function listen(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener("storage", listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("storage", listener);
  };
}

/** Who works at this screen, as they call themselves; the browser remembers it. */
export function usePerson(): [string, (name: string) => void] {
  const person = useSyncExternalStore(listen, () => localStorage.getItem(KEY) ?? "");
  const call = useCallback((name: string) => {
    localStorage.setItem(KEY, name.trim().slice(0, 60));
    listeners.forEach((listener) => listener());
  }, []);
  return [person, call];
}
