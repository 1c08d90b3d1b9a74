import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { useEffect, useMemo, useState, type ReactNode } from "react";

import { Refusal, type Answer, type Catalogue, type Schemas } from "../api/client";
import * as queries from "./queries";
import { useDraft } from "./use-draft";
import { withinRig } from "./within-rig";

type Unmet = Schemas["Unmet"];

export type Answering = {
  answer: Answer | undefined;
  /** Why promises cannot be kept, once that is found out. */
  unmet: readonly Unmet[] | undefined;
  reasons: UseQueryResult<Schemas["Reasons"]>;
  catalogue: Catalogue | undefined;
  /** What else follows from the rig is asked once this is over: asked beside it, the rig would be planned twice. */
  isPlanning: boolean;
  refusal: Refusal | undefined;
};

const [Provide, inRig] = withinRig<Answering>("useAnswer");

/** What follows from the rig as it stands: the plan and all that hangs on it. */
export const useAnswer = inRig;

/** Plans the draft whenever it changes. The last answer stays in sight while the next is worked out. */
export function AnswerProvider({ children }: { children: ReactNode }) {
  const { rig, remember } = useDraft();
  const { data: catalogue } = useQuery(queries.catalogueQuery);
  const { data: found, error, isFetching, isPlaceholderData } = useQuery(queries.answerQuery(rig));
  // Where none can be had now, the last one stays in sight: without it nothing would have a name.
  const [last, setLast] = useState(found);
  if (found && found !== last) setLast(found);
  const answer = found ?? last;
  const asksWhy = !isPlaceholderData && answer !== undefined && answer.not_kept.length > answer.plan.unmet.length;
  const reasons = useQuery({ ...queries.reasonsQuery(rig), enabled: asksWhy });
  // Those of the last plan go with it: they would be wrong beside this one.
  const ofThis = answer?.plan.unmet.length ? answer.plan.unmet : reasons.data?.unmet;
  const unmet = asksWhy && reasons.isPlaceholderData ? undefined : ofThis;
  const flags = isPlaceholderData ? undefined : answer?.flags;
  useEffect(() => {
    if (flags) remember(flags);
  }, [flags, remember]);
  const answering = useMemo<Answering>(
    () => ({
      answer,
      unmet,
      reasons,
      catalogue,
      isPlanning: isFetching,
      refusal: error instanceof Refusal ? error : undefined,
    }),
    [answer, catalogue, error, isFetching, reasons, unmet],
  );
  return <Provide value={answering}>{children}</Provide>;
}
