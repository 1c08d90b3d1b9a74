import type { ReactNode } from "react";

/** A titled area of a screen. `actions` stand at the right of the title. */
export function Panel({
  title,
  actions,
  children,
  className = "",
  scroll = false,
}: {
  title?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
  className?: string;
  scroll?: boolean;
}) {
  return (
    <section className={`flex min-h-0 flex-col rounded-lg border border-edge bg-panel ${className}`}>
      {title !== undefined && (
        <header className={`flex flex-wrap items-center justify-between gap-2 px-4 ${scroll ? "border-b border-edge py-2" : "pt-3"}`}>
          <h2 className="text-lg font-semibold">{title}</h2>
          {actions}
        </header>
      )}
      <div className={`min-h-0 flex-1 p-4 ${scroll ? "overflow-auto" : ""}`} tabIndex={scroll ? 0 : undefined}>
        {children}
      </div>
    </section>
  );
}

/** A tape flag: the short tag that stands on both ends of a cable, on the map, the schedule and the sheet. */
export function Flag({ tag, family }: { tag: string; family: string }) {
  return (
    <span
      className="inline-block min-w-10 rounded-sm border-l-8 bg-raised px-2 py-0.5 text-center font-bold tabular-nums"
      style={{ borderColor: `var(--${familyToken(family)})` }}
    >
      {tag}
    </span>
  );
}

export function familyToken(family: string): string {
  return family === "motor-bus" ? "power" : family;
}

/** What stands where nothing is yet, and what to do about it. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex flex-col items-center gap-3 px-6 py-10 text-center">
      <p className="text-lg font-semibold">{title}</p>
      <div className="max-w-md text-soft">{children}</div>
    </div>
  );
}

/** What stands where something is on its way: it takes the room that it will have, so that nothing moves under a finger. */
export function OnItsWay({ says }: { says: string }) {
  return (
    <div role="status" className="h-full min-h-[60vh] rounded-lg border border-edge bg-panel p-5 text-soft">
      {says}.
    </div>
  );
}

/** A key as it stands on the keyboard. */
export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd className="inline-block min-w-8 rounded border border-edge bg-raised px-2 py-0.5 text-center font-sans text-sm">{children}</kbd>
  );
}
