import { useQuery } from "@tanstack/react-query";
import { useMemo, type ReactNode } from "react";

import type { Schemas } from "../api/client";
import { proveStep } from "./keys";
import * as queries from "./queries";
import { useAnswer } from "./use-answer";
import { useDraft } from "./use-draft";
import { useSteps, type Mark } from "./use-steps";
import { withinRig } from "./within-rig";

export type ProofByHand = Schemas["ProofByHand"];

export type InTheLog = ReturnType<typeof useSteps> & {
  /** Promise -> who proved it by hand and when, and what spoilt that since. */
  byHand: Record<string, ProofByHand>;
  /** Marks with those of proofs that hold no longer: what was said, whether or not it still holds. */
  said: Record<string, Mark>;
};

const [Provide, inRig] = withinRig<InTheLog>("useDay");

/** What people did and said on the day, and saying more. */
export const useDay = inRig;

/** Without the proofs that hold no longer, or were none: those steps are to be done again. */
function standing<T>(said: Record<string, T>, byHand: Record<string, ProofByHand>): Record<string, T> {
  const again = new Set(
    Object.values(byHand).flatMap((one) => (one.outcome === "proven" && one.lapsed?.length ? [proveStep(one.promise)] : [])),
  );
  return again.size === 0 ? said : Object.fromEntries(Object.entries(said).filter(([step]) => !again.has(step)));
}

/** What was proven by hand, of which some may hold no longer. */
function useProofs(marks: Record<string, Mark>): Record<string, ProofByHand> {
  const { rig } = useDraft();
  const { isPlanning } = useAnswer();
  // What waits in line is not known to the server yet.
  const proofs = new Set(rig.promises.map(({ id }) => proveStep(id)));
  const proven = Object.entries(marks).filter(([step, mark]) => proofs.has(step) && mark.what !== "skipped" && mark.revision > 0);
  const { data } = useQuery({ ...queries.proofsQuery(rig, JSON.stringify(proven)), enabled: proven.length > 0 && !isPlanning });
  return useMemo(() => Object.fromEntries((proven.length ? (data ?? []) : []).map((one) => [one.promise, one])), [data, proven.length]);
}

export function DayProvider({ children }: { children: ReactNode }) {
  const { rig, sync } = useDraft();
  const steps = useSteps(rig.id, sync);
  const byHand = useProofs(steps.marks);
  const day = useMemo<InTheLog>(
    () => ({ ...steps, byHand, said: steps.marks, marks: standing(steps.marks, byHand), ticks: standing(steps.ticks, byHand) }),
    [steps, byHand],
  );
  return <Provide value={day}>{children}</Provide>;
}
