import { useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import type { Step } from "../../../api/client";
import { Button, Empty, Panel, useKeepInView, useShortcuts } from "../../../ui";
import { useAnswer, useRun } from "../../../rig";
import { byStage, nextOpen, spoken, STAGE_NAMES } from "../model";
import { StepCard } from "./step-card";

/** One step large, the list beside it. Ticks stay. */
export function RunSheetScreen() {
  const { answer } = useAnswer();
  const { ticks, tick, untickAll } = useRun();
  const [search, setSearch] = useSearchParams();
  const steps = useMemo(() => answer?.sheet.steps ?? [], [answer]);
  const asked = steps.findIndex((step) => step.id === search.get("step"));
  const at = asked === -1 ? nextOpen(steps, ticks) : asked;
  const step = steps[at];
  const go = (to: number) => {
    const next = steps[Math.max(0, Math.min(steps.length - 1, to))];
    if (next) setSearch({ step: next.id }, { replace: true });
  };
  const toggle = () => {
    if (!step) return;
    const done = !(step.id in ticks);
    tick(step.id, done);
    if (done) go(at + 1);
  };
  const [warned, setWarned] = useState(false);
  useShortcuts([
    { keys: "j", does: "Next step", run: () => go(at + 1) },
    { keys: "k", does: "Step before", run: () => go(at - 1) },
    { keys: "arrowdown", does: "Next step", run: () => go(at + 1) },
    { keys: "arrowup", does: "Step before", run: () => go(at - 1) },
    { keys: "space", does: "Tick", run: toggle },
  ]);
  if (!answer) return <p className="p-4 text-soft">Planning.</p>;
  if (!step)
    return (
      <Panel className="h-full">
        <Empty title="Nothing to do">No promise of this rig can be kept as it stands, so there is no run sheet.</Empty>
      </Panel>
    );
  const done = steps.filter((one) => one.id in ticks).length;
  return (
    <div className="grid gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <StepCard
        step={step}
        number={at + 1}
        of={steps.length}
        ticked={step.id in ticks}
        onTick={toggle}
        onBack={at > 0 ? () => go(at - 1) : undefined}
        onNext={at < steps.length - 1 ? () => go(at + 1) : undefined}
      />
      <Panel
        title={`${done} of ${steps.length} done`}
        scroll
        actions={
          <Button
            weight="quiet"
            disabled={done === 0}
            onBlur={() => setWarned(false)}
            onClick={() => {
              if (warned) untickAll();
              setWarned(!warned);
            }}
          >
            {warned ? "Really take all ticks off" : "New day"}
          </Button>
        }
      >
        <p className="-mt-3 mb-2 text-sm text-soft">About {spoken(answer.sheet.takes_s)} in all.</p>
        <StepList steps={steps} at={at} ticks={ticks} onGo={go} />
      </Panel>
    </div>
  );
}

function StepList({ steps, at, ticks, onGo }: { steps: readonly Step[]; at: number; ticks: Record<string, string>; onGo: (to: number) => void }) {
  const here = useRef<HTMLButtonElement>(null);
  useKeepInView(here, at);
  return byStage(steps).map((run) => (
    <section key={`${run.stage} ${run.steps[0]?.id}`}>
      <h3 className="pt-2 pb-1 text-sm font-semibold text-soft">{STAGE_NAMES[run.stage]}</h3>
      <ol>
        {run.steps.map((step) => {
          const number = steps.indexOf(step);
          const ticked = step.id in ticks;
          return (
            <li key={step.id}>
              <button
                ref={number === at ? here : undefined}
                type="button"
                aria-current={number === at ? "step" : undefined}
                onClick={() => onGo(number)}
                className={`flex min-h-11 w-full items-center gap-3 rounded px-2 text-left leading-tight ${number === at ? "bg-raised shadow-[inset_5px_0_0_var(--lead)]" : ""}`}
              >
                <span className={`w-5 text-center ${ticked ? "text-good" : "text-soft"}`} aria-label={ticked ? "done" : "open"} role="img">
                  {ticked ? "✔" : "○"}
                </span>
                <span className={ticked ? "text-soft" : ""}>{step.title}</span>
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  ));
}
