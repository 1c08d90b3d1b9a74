import type { Step } from "../../api/client";
import { useAnswer } from "../use-answer";
import { Joined } from "./joined";
import { endsSeen, type Seen } from "./model";

/** Both ends of what a step plugs or pulls, where they can be drawn. */
export function useEnds(step: Step | undefined): [Seen, Seen] | undefined {
  const { answer } = useAnswer();
  return step && "a" in step.act && "b" in step.act ? endsSeen(answer, [step.act.a, step.act.b], step.ends) : undefined;
}

/** What a step plugs or pulls, drawn; nothing for a step that does something else. */
export function StepPicture({ step }: { step: Step }) {
  const { answer } = useAnswer();
  const ends = useEnds(step);
  const join = answer?.plan.joins.find(({ tag }) => tag === step.tag);
  return ends ? <Joined ends={ends} tag={step.tag} family={join?.family ?? "control"} isMounted={join?.family === "mount"} /> : null;
}
