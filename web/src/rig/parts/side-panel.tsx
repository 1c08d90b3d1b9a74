import { useCallback, useEffect, useMemo, useRef, type ReactNode } from "react";

import { Button, useShortcuts } from "../../ui";
import { usePanel } from "../use-panel";

/** What stands open beside the column of promises; on a phone it covers the screen. Escape closes it. */
export function SidePanel({ title, onClose, children }: { title: string; onClose?: () => void; children: ReactNode }) {
  const { close: closePanel } = usePanel();
  const close = useCallback(() => {
    closePanel();
    onClose?.();
  }, [closePanel, onClose]);
  const heading = useRef<HTMLHeadingElement>(null);
  // Once: a title that follows an edit must not take the focus out of the field that made it.
  useEffect(() => heading.current?.focus(), []);
  useShortcuts(useMemo(() => [{ keys: "escape", does: "Close the panel", run: close }], [close]));
  return (
    <section
      aria-label={title}
      className="flex min-h-0 flex-col border-edge bg-panel max-md:fixed max-md:inset-0 max-md:z-30 md:w-[27rem] md:shrink-0 md:border-r"
    >
      <header className="flex items-start gap-2 border-b border-edge py-1.5 pr-2 pl-4">
        <h2 ref={heading} tabIndex={-1} className="min-w-0 flex-1 py-2 text-lg leading-tight font-semibold outline-none">
          {title}
        </h2>
        <Button weight="quiet" onClick={close}>
          Close
        </Button>
      </header>
      <div className="relative min-h-0 flex-1 overflow-auto p-4" tabIndex={0} role="group" aria-label="Details">
        {children}
      </div>
    </section>
  );
}
