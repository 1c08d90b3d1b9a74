import type { Step } from "../../../api/client";
import { endsSeen, Joined, useAnswer } from "../../../rig";

/** Both ends of what a step plugs or pulls, where they can be drawn. */
export function useEnds(step: Step | undefined) {
  const { answer } = useAnswer();
  return step && "a" in step.act && "b" in step.act ? endsSeen(answer, [step.act.a, step.act.b], step.ends) : undefined;
}

/** One step: what is plugged is drawn, and what the picture shows is not said again. */
export function Single({ step }: { step: Step }) {
  const { answer } = useAnswer();
  const ends = useEnds(step);
  const join = answer?.plan.joins.find(({ tag }) => tag === step.tag);
  const shown = new Set(ends ? (step.ends ?? []).map(({ says }) => says) : []);
  return (
    <>
      {ends && <Joined ends={ends} tag={step.tag} family={join?.family ?? "control"} isMounted={join?.family === "mount"} />}
      <ul className="space-y-1 text-lg leading-snug">
        {(step.detail ?? [])
          .filter((line) => !shown.has(line))
          .map((line) => (
            <li key={line}>{line}</li>
          ))}
      </ul>
    </>
  );
}
