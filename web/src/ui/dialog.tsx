import { Dialog as HeadlessDialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

import { Button } from "./button";

/** A dialog in the middle, or a drawer at the right. Escape and a tap beside it close it. */
export function Dialog({
  open,
  onClose,
  title,
  side = "middle",
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: ReactNode;
  side?: "middle" | "right";
  children: ReactNode;
}) {
  const place = side === "right" ? "items-stretch justify-end" : "items-start justify-center p-4 pt-16";
  const shape = side === "right" ? "h-full w-full max-w-xl" : "max-h-full w-full max-w-2xl rounded-lg";
  return (
    <HeadlessDialog open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-ground/75" />
      <div className={`fixed inset-0 flex ${place}`}>
        <DialogPanel className={`flex flex-col overflow-hidden border border-edge bg-panel ${shape}`}>
          <div className="flex items-center justify-between gap-4 border-b border-edge px-4 py-2">
            <DialogTitle className="text-lg font-semibold">{title}</DialogTitle>
            <Button weight="quiet" onClick={onClose} aria-label="Close">
              Close
            </Button>
          </div>
          <div className="min-h-0 flex-1 overflow-auto p-4" tabIndex={0}>
            {children}
          </div>
        </DialogPanel>
      </div>
    </HeadlessDialog>
  );
}
