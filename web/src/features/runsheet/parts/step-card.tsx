import type { Step } from "../../../api/client";
import { Button } from "../../../ui";
import { spoken, STAGE_NAMES } from "../model";

/** One step, to be read at arm's length: what to do, what to see when it is done, what to beware of. */
export function StepCard({
  step,
  number,
  of,
  ticked,
  onTick,
  onBack,
  onNext,
}: {
  step: Step;
  number: number;
  of: number;
  ticked: boolean;
  onTick: () => void;
  onBack?: () => void;
  onNext?: () => void;
}) {
  return (
    <article aria-label="Step" className="flex min-h-0 flex-col rounded-lg border border-edge bg-panel">
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-auto px-5 py-4" tabIndex={0}>
      <p className="flex flex-wrap items-center gap-x-4 text-lg text-soft">
        <b className="text-ink">{STAGE_NAMES[step.stage]}</b>
        <span className="tabular-nums">
          step {number} of {of}
        </span>
        <span>about {spoken(step.takes_s)}</span>
        {step.care && <span className="rounded bg-raised px-2 font-semibold text-ink">care</span>}
      </p>
      <h2 className="text-3xl leading-tight font-bold">{step.title}</h2>
      <ul className="space-y-1.5 text-xl leading-snug">
        {(step.detail ?? []).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {(step.avoid ?? []).map((words) => (
        <p key={words} className="rounded-md border-l-8 border-warn bg-raised px-3 py-2 text-lg leading-snug font-semibold">
          Look-alike! {words}.
        </p>
      ))}
      </div>
      {/* Cautions stand where they are seen without scrolling, next to the button that says done. */}
      <div className="space-y-2 border-t border-edge px-5 pt-3 text-lg leading-snug">
        {(step.cautions ?? []).map((caution) => (
          <p key={caution} className="rounded-md border-l-8 border-bad bg-raised px-3 py-2">
            <b>Caution. </b>
            {caution}
          </p>
        ))}
        <p>
          <b className="text-good">Done when: </b>
          {step.expect}
        </p>
      </div>
      <div className="grid grid-cols-[1fr_2fr_1fr] gap-2 p-4">
        <Button className="min-h-16 text-lg" disabled={!onBack} onClick={onBack}>
          Back
        </Button>
        <Button weight="lead" className="min-h-16 text-xl" onClick={onTick} aria-pressed={ticked}>
          {ticked ? "Done ✔, take the tick off" : "Done"}
        </Button>
        <Button className="min-h-16 text-lg" disabled={!onNext} onClick={onNext}>
          Next
        </Button>
      </div>
    </article>
  );
}
