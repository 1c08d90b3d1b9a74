import { useEffect, useState } from "react";

import type { Step } from "../../../api/client";
import { Pictogram } from "../../../ui";
import { spoken } from "../model";
import { tellOver, waitsOf } from "../waits";

/** What still goes on by itself, counted down; heard and felt when it is over. */
export function Waits({ steps, ticks }: { steps: readonly Step[]; ticks: Record<string, string> }) {
  const [now, setNow] = useState(() => Date.now());
  const waits = waitsOf(steps, ticks, now);
  const until = waits[0]?.until;
  useEffect(() => {
    // A tick that was made elsewhere begins a wait as well: it is looked at once a second.
    const timer = window.setInterval(() => setNow(Date.now()), 1000);
    return () => window.clearInterval(timer);
  }, []);
  useEffect(() => {
    if (until === undefined) return;
    const timer = window.setTimeout(
      () => {
        tellOver();
        setNow(Date.now());
      },
      Math.max(0, until - Date.now()),
    );
    return () => window.clearTimeout(timer);
  }, [until]);
  if (waits.length === 0) return null;
  return (
    <ul aria-label="Going on by itself" className="space-y-1">
      {waits.map(({ step, title, until: end }) => (
        <li key={step} className="flex items-center gap-2 rounded-md bg-raised px-3 py-1">
          <Pictogram name="wait" className="text-lead" />
          <span className="min-w-0 flex-1 truncate">{title}</span>
          <b className="tabular-nums">{spoken(Math.max(1, Math.round((end - now) / 1000)))}</b>
        </li>
      ))}
    </ul>
  );
}
