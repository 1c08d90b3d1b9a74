import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";

import { asBuilt, useAnswer, useDay, useDraft } from "../../rig";
import { cardsOf, isDone, nextOpen } from "./model";

/** The run sheet at hand: from the cases or from the rig as it stands built, the card that is looked at, and moving on. */
export function useSheet() {
  const { answer } = useAnswer();
  const { marks, ticks, tick, untickAll } = useDay();
  const { edit } = useDraft();
  const [search, setSearch] = useSearchParams();
  const [whole, setWhole] = useState(false);
  const since = whole ? null : answer?.since_built;
  const sheet = since ?? answer?.sheet;
  const cards = useMemo(() => cardsOf(sheet?.steps ?? []), [sheet]);
  const asked = cards.findIndex((card) => card.steps.some((step) => step.id === search.get("step")));
  const at = asked === -1 ? nextOpen(cards, marks) : asked;
  const card = cards[at];
  const goTo = (step: string) => setSearch({ step }, { replace: true });
  const go = (to: number) => {
    const next = cards[Math.max(0, Math.min(cards.length - 1, to))]?.steps[0];
    if (next) goTo(next.id);
  };
  const toggle = () => {
    if (!card) return;
    const done = !isDone(card, ticks);
    tick(
      card.steps.map((step) => step.id).filter((id) => id in ticks !== done),
      done,
    );
    if (done) go(at + 1);
  };
  const markBuilt = () => {
    if (!answer) return;
    edit((rig) => asBuilt(rig, answer.flags));
    untickAll();
    setWhole(false);
  };
  return { answer, since, sheet, whole, setWhole, cards, at, card, go, goTo, toggle, markBuilt };
}

export type Sheet = ReturnType<typeof useSheet>;
