import type { Step } from "../../../api/client";
import { carried, StepPicture, useAnswer, useEnds } from "../../../rig";

/** One step: what is plugged is drawn, and what the picture shows is not said again. */
export function Single({ step }: { step: Step }) {
  const { answer } = useAnswer();
  const carries = step.tag ? carried(answer, step.tag) : undefined;
  const isDrawn = useEnds(step) !== undefined;
  const shown = new Set(isDrawn ? (step.ends ?? []).map(({ says }) => says) : []);
  return (
    <>
      <StepPicture step={step} />
      <ul className="space-y-1 text-lg leading-snug">
        {(step.detail ?? [])
          .filter((line) => !shown.has(line))
          .map((line) => (
            <li key={line}>{line}</li>
          ))}
        {carries !== undefined && <li>It carries {carries}.</li>}
      </ul>
    </>
  );
}
