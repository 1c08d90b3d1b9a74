import { useRef } from "react";

import type { Run, Step } from "../../../api/client";
import { Button, useKeepInView } from "../../../ui";

/** The steps as they are carried out: what was seen at each, and a way to leave one out. */
export function Narration({
  steps,
  run,
  shown,
  skip,
  onLeaveOut,
}: {
  steps: readonly Step[];
  run: Run | undefined;
  shown: number;
  skip: string[];
  onLeaveOut: (step: string) => void;
}) {
  const frames = new Map((run?.frames ?? []).slice(0, shown).map((frame) => [frame.step, frame]));
  const last = run?.frames[shown - 1]?.step;
  const here = useRef<HTMLLIElement>(null);
  useKeepInView(here, last);
  return (
    <ol className="-mt-2">
      {steps.map((step, number) => {
        const frame = frames.get(step.id);
        const out = skip.includes(step.id);
        return (
          <li
            key={step.id}
            ref={step.id === last ? here : undefined}
            className={`flex items-center gap-2 border-b border-edge py-1 ${step.id === last ? "bg-raised shadow-[inset_5px_0_0_var(--lead)]" : ""}`}
          >
            <span className="w-7 shrink-0 text-right text-sm text-soft tabular-nums">{number + 1}</span>
            <div className="min-w-0 flex-1 leading-tight">
              <span className={out ? "text-soft line-through" : frame ? "text-soft" : ""}>{step.title}</span>
              {frame && (
                <span className={`block font-semibold ${frame.proof ? (frame.proof.ok ? "text-good" : "text-warn") : ""}`}>
                  {frame.proof && (frame.proof.ok ? "✔ Proven. " : "▲ Fails. ")}
                  {frame.seen}
                </span>
              )}
            </div>
            <Button
              weight="quiet"
              aria-label={`${out ? "Do it after all" : "Leave out"}: ${step.title}`}
              className="shrink-0 text-sm"
              onClick={() => onLeaveOut(step.id)}
            >
              {out ? "Put back" : "Leave out"}
            </Button>
          </li>
        );
      })}
    </ol>
  );
}
