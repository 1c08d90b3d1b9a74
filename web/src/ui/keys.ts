import { useLayoutEffect, useRef } from "react";

export type Shortcut = { keys: string; does: string; run: () => void };

const TYPING = new Set(["INPUT", "TEXTAREA", "SELECT"]);

/** The name of a key press as shortcuts write it: `ctrl+shift+z`, `j`, `?`. */
export function pressed(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey" | "altKey">): string {
  const key = event.key === " " ? "space" : event.key.toLowerCase();
  const shift = event.shiftKey && key.length > 1;
  const letterShift = event.shiftKey && (event.ctrlKey || event.metaKey) && key.length === 1;
  return [event.ctrlKey || event.metaKey ? "ctrl" : "", event.altKey ? "alt" : "", shift || letterShift ? "shift" : "", key]
    .filter(Boolean)
    .join("+");
}

/** Listen for `shortcuts` while the caller is on the screen; never while somebody types or a dialog is open. */
export function useShortcuts(shortcuts: Shortcut[]): void {
  // Read at the moment of the press: a fast second press must not meet the shortcuts of the screen before.
  const latest = useRef(shortcuts);
  useLayoutEffect(() => {
    latest.current = shortcuts;
  }, [shortcuts]);
  // Before the screen is painted: whoever sees it may press at once.
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const name = pressed(event);
      const target = event.target as HTMLElement;
      const plain = !name.startsWith("ctrl");
      if (plain && (TYPING.has(target.tagName) || target.closest("[role=listbox],[role=dialog]"))) return;
      // Space and Enter belong to the button that has the focus.
      if ((name === "space" || name === "enter") && target.closest("button,a")) return;
      if (document.querySelector("[role=dialog]") && name !== "ctrl+k") return;
      const shortcut = latest.current.find((one) => one.keys === name);
      if (shortcut) {
        event.preventDefault();
        shortcut.run();
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
