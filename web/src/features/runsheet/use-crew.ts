import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import { useAnswer, useDay, useDraft, usePerson } from "../../rig";
import { crewOf, type Whose } from "./crew";
import { crewQuery } from "./queries";
import type { Sheet } from "./use-sheet";

/** The sheet on so many people: who they are, who does what, and which steps hold up the end. */
export function useCrew({ sheet, whole }: Sheet) {
  const { isPlanning } = useAnswer();
  const { marks, given } = useDay();
  const { rig } = useDraft();
  const [me] = usePerson();
  const [count, setCount] = useState(1);
  const [whose, setWhose] = useState<Whose>("all");
  const people = crewOf(me, marks, given, count);
  const { data: crewed } = useQuery({ ...crewQuery(rig, people, given, marks, whole), enabled: !isPlanning && Boolean(sheet) });
  const critical = useMemo(
    () => new Set(count > 1 ? crewed?.turns.filter((turn) => turn.is_critical).map((turn) => turn.step) : []),
    [crewed, count],
  );
  return { people, count, setCount, whose, setWhose, crewed, critical };
}

export type OnTheSheet = ReturnType<typeof useCrew>;
