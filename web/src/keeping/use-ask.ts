import { useEffect } from "react";

/** The browser asks before the window is closed or reloaded, for as long as something would be lost by it. */
export function useAskBeforeClosing(wouldLose: boolean): void {
  useEffect(() => {
    if (!wouldLose) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [wouldLose]);
}
