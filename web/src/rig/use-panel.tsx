import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";

/** What stands open beside the column: one promise, one device as it lies there, the shelf, or the rig itself. */
export type Opened = { kind: "promise" | "device"; id: string } | { kind: "shelf" | "about" };

export type Panels = {
  opened: Opened | undefined;
  show: (what: Opened) => void;
  close: () => void;
};

const Context = createContext<Panels | undefined>(undefined);

/** Opens and closes the panel of a rig, from any screen. */
export function usePanel(): Panels {
  const panels = useContext(Context);
  if (!panels) throw new Error("usePanel stands outside a rig");
  return panels;
}

/** Keeps what is open, and gives the focus back to what it was opened from. */
export function PanelProvider({ children }: { children: ReactNode }) {
  const [opened, setOpened] = useState<Opened>();
  const from = useRef<Element>(null);
  const show = useCallback((what: Opened) => {
    from.current = document.activeElement;
    setOpened(what);
  }, []);
  const close = useCallback(() => {
    setOpened(undefined);
    if (from.current instanceof HTMLElement) from.current.focus();
  }, []);
  const panels = useMemo<Panels>(() => ({ opened, show, close }), [close, opened, show]);
  return <Context.Provider value={panels}>{children}</Context.Provider>;
}
