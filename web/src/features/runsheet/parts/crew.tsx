import { useEffect, useState } from "react";

import type { Step } from "../../../api/client";
import type { Mark } from "../../../rig";
import { Button, Choose } from "../../../ui";
import { turnsNow, underWay, type Crewed, type Whose } from "../crew";
import { spoken } from "../model";

/** How many are there, how long it takes them, what each takes now, and what goes on by itself meanwhile. */
export function CrewPanel({
  crewed,
  people,
  count,
  steps,
  marks,
  onCount,
  onGo,
}: {
  crewed: Crewed | undefined;
  people: readonly string[];
  count: number;
  steps: readonly Step[];
  marks: Record<string, Mark>;
  onCount: (count: number) => void;
  onGo: (step: string) => void;
}) {
  const title = (id: string | undefined) => steps.find((step) => step.id === id)?.title;
  const left = crewed?.left_s ?? 0;
  return (
    <section aria-label="Crew" className="space-y-1 rounded-lg border border-edge bg-panel px-4 py-2">
      <div className="flex items-center gap-2">
        <p className="min-w-0 flex-1 leading-tight">
          {crewed ? (
            <>
              <b className="text-lg">{left === 0 ? "All done" : `${spoken(left)} left`}</b>
              {left > 0 && count > 1 && <span className="text-soft"> · alone {spoken(crewed.alone_s)}</span>}
              {crewed.status !== "proven" && (
                <span className="block text-sm text-soft">perhaps {Math.max(1, Math.round(crewed.gap * 100))} % less, at most</span>
              )}
            </>
          ) : (
            <span className="text-soft">Dealing the steps out</span>
          )}
        </p>
        <span role="group" aria-label="How many are there" className="flex gap-1">
          {[1, 2, 3].map((n) => (
            <Button
              key={n}
              aria-pressed={n === count}
              aria-label={n === 1 ? "1 person" : `${n} people`}
              className={n === count ? "border-2 border-lead font-bold" : ""}
              onClick={() => onCount(n)}
            >
              {n}
            </Button>
          ))}
        </span>
      </div>
      {left > 0 && (
        <ul>
          {turnsNow(crewed, people).map(({ person, step, in_s }) => (
            <li key={person}>
              <button
                type="button"
                disabled={!step}
                className="flex min-h-11 w-full items-center gap-2 rounded px-1 text-left leading-tight"
                onClick={() => step && onGo(step)}
              >
                <b className="w-20 shrink-0 truncate">{person}</b>
                <span className="min-w-0 flex-1">{step ? title(step) : "free"}</span>
                <span className="shrink-0 text-soft">{step ? (in_s > 0 ? `in ${spoken(in_s)}` : "now") : ""}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <Waits steps={steps} marks={marks} />
    </section>
  );
}

/** What was set going and is not over: a clock that runs down. */
function Waits({ steps, marks }: { steps: readonly Step[]; marks: Record<string, Mark> }) {
  const [now, setNow] = useState(() => Date.now());
  const waits = underWay(steps, marks, now);
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), 1000);
    return () => window.clearInterval(timer);
  }, []);
  if (waits.length === 0) return null;
  return (
    <ul aria-label="Goes on by itself">
      {waits.map(({ step, left_s }) => (
        <li key={step.id} className="flex gap-2 border-l-8 border-lead bg-raised px-2 py-1">
          <span className="min-w-0 flex-1">{step.title}: wait for it</span>
          <b className="tabular-nums">{left_s} s</b>
        </li>
      ))}
    </ul>
  );
}

const WHOSE: { value: Whose; label: string }[] = [
  { value: "all", label: "Every step" },
  { value: "mine", label: "Mine" },
  { value: "nobodys", label: "Nobody's yet" },
  { value: "device", label: "At this device" },
  { value: "stage", label: "Of this stage" },
];

export function WhoseSteps({ whose, onWhose }: { whose: Whose; onWhose: (whose: Whose) => void }) {
  return <Choose label="Which steps" value={whose} choices={WHOSE} onChange={(value) => onWhose(value as Whose)} />;
}

/** To whom what is given: this step, all at its device, or its whole stage. */
export function Give({
  step,
  stage,
  owner,
  people,
  onGive,
}: {
  step: Step;
  stage: string;
  owner: string | undefined;
  people: readonly string[];
  onGive: (subject: string, to: string | null) => void;
}) {
  const [scope, setScope] = useState("step");
  const scopes = [
    { value: "step", label: "this step" },
    ...(step.device ? [{ value: "device", label: "this device" }] : []),
    { value: "stage", label: `all of ${stage}` },
  ];
  const subjects: Record<string, string> = { step: step.id, device: `device:${step.device}`, stage: `stage:${step.stage}` };
  const names = [...new Set([...(owner ? [owner] : []), ...people])];
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">{owner ? `${owner}'s.` : "Nobody's yet."} Give</span>
      <Choose label="What is given" value={scope} choices={scopes} onChange={setScope} />
      <span className="text-soft">to</span>
      <Choose
        label="To whom"
        value=""
        choices={[{ value: "", label: "…" }, ...names.map((name) => ({ value: name, label: name })), { value: "-", label: "nobody" }]}
        onChange={(name) => name && onGive(subjects[scope] ?? step.id, name === "-" ? null : name)}
      />
    </div>
  );
}
