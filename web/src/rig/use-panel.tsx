import { useCallback, useMemo, useRef, useState, type ReactNode } from "react";
import { withinRig } from "./within-rig";

/** What stands open beside the column: one promise, one device as it lies there, the shelf, or the rig itself. */
export type Opened = { kind: "promise" | "device"; id: string } | { kind: "shelf" | "about" };

export type Panels = {
  opened: Opened | undefined;
  show: (what: Opened) => void;
  close: () => void;
};

const [Provide, inRig] = withinRig<Panels>("usePanel");

/** Opens and closes the panel of a rig, from any screen. */
export const usePanel = inRig;

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
  return <Provide value={panels}>{children}</Provide>;
}
