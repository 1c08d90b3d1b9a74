import { useCallback, useSyncExternalStore } from "react";

import { person as kept } from "../api/client";

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
  const person = useSyncExternalStore(listen, kept.now);
  const call = useCallback((name: string) => {
    kept.is(name);
    listeners.forEach((listener) => listener());
  }, []);
  return [person, call];
}
