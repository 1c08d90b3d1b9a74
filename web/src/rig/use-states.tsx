import { useMemo, type ReactNode } from "react";

import { proofsShown, stateOf, type PromiseState } from "./model";
import { useAnswer } from "./use-answer";
import { useBench } from "./use-bench";
import { useDay } from "./use-day";
import { useDraft } from "./use-draft";
import { withinRig } from "./within-rig";

type States = Record<string, PromiseState>;

const [Provide, inRig] = withinRig<States>("useStates");

/** How each promise stands, by what was planned, run on the bench, and ticked. */
export const useStates = inRig;

/** Puts together what follows for the promises from the plan, the bench and the day. */
export function StatesProvider({ children }: { children: ReactNode }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { said, byHand } = useDay();
  const { playback, worked } = useBench();
  const states = useMemo(() => {
    const proofs = [...proofsShown(playback?.run, playback?.shown ?? 0), ...worked];
    return Object.fromEntries(rig.promises.map((one) => [one.id, stateOf(one, answer, proofs, said, byHand[one.id])]));
  }, [rig.promises, answer, playback, worked, said, byHand]);
  return <Provide value={states}>{children}</Provide>;
}
