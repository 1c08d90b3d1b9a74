import { useSyncExternalStore } from "react";

const query = () => window.matchMedia("(min-width: 48rem)");

function listen(changed: () => void): () => void {
  const wide = query();
  wide.addEventListener("change", changed);
  return () => wide.removeEventListener("change", changed);
}

/** Whether there is room for more than a phone shows. */
export function useWide(): boolean {
  return useSyncExternalStore(listen, () => query().matches);
}
