import { useRef } from "react";

import type { Mark } from "../../../rig";
import { Pictogram, useKeepInView } from "../../../ui";
import { ownerOf } from "../crew";
import { byStage, pictogramOf, standingOf, STAGE_NAMES, type Card } from "../model";

const LOOKS = {
  open: { mark: "○", says: "open", colour: "text-soft" },
  done: { mark: "✔", says: "done", colour: "text-good" },
  skipped: { mark: "–", says: "skipped", colour: "text-soft" },
  differs: { mark: "▲", says: "does not look like that", colour: "text-warn" },
  spoilt: { mark: "↻", says: "to be done again", colour: "text-warn" },
} as const;

/** Every card of the sheet in a line, by stage; the one that is looked at stays in view. */
export function CardList({
  cards,
  shown,
  at,
  marks,
  given,
  critical,
  onGo,
}: {
  cards: readonly Card[];
  shown: readonly Card[];
  at: number;
  marks: Record<string, Mark>;
  given: Record<string, string>;
  critical: ReadonlySet<string>;
  onGo: (to: number) => void;
}) {
  const here = useRef<HTMLButtonElement>(null);
  useKeepInView(here, at);
  if (shown.length === 0) return <p className="py-3 text-soft">No step is like that. Give some to somebody on their cards.</p>;
  return byStage(shown).map((run) => (
    <section key={`${run.stage} ${run.cards[0]?.steps[0]?.id}`}>
      <h3 className="pt-2 pb-1 text-sm font-semibold text-soft">{STAGE_NAMES[run.stage]}</h3>
      <ol>
        {run.cards.map((card) => {
          const number = cards.indexOf(card);
          const standing = standingOf(card, marks);
          const some = card.steps.filter((step) => marks[step.id]?.what === "done").length;
          const look = LOOKS[standing];
          return (
            <li key={card.steps[0]?.id}>
              <button
                ref={number === at ? here : undefined}
                type="button"
                aria-current={number === at ? "step" : undefined}
                onClick={() => onGo(number)}
                className={`flex min-h-11 w-full items-center gap-3 rounded px-2 text-left leading-tight ${number === at ? "bg-raised shadow-[inset_5px_0_0_var(--lead)]" : ""}`}
              >
                <span className={`w-5 text-center ${look.colour}`} aria-label={look.says} role="img">
                  {look.mark}
                </span>
                <Pictogram name={pictogramOf(card)} className="text-soft" />
                <span className={`min-w-0 flex-1 ${standing === "done" || standing === "skipped" ? "text-soft" : ""}`}>
                  {card.title}
                  {card.steps[0] && ownerOf(card.steps[0], given) && (
                    <span className="block text-sm text-soft">{ownerOf(card.steps[0], given)}</span>
                  )}
                </span>
                {card.steps.some(({ id }) => critical.has(id)) && (
                  <span role="img" aria-label="holds up the end">
                    ◆
                  </span>
                )}
                {card.steps.length > 1 && (
                  <span className="text-sm text-soft tabular-nums">
                    {some} of {card.steps.length}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  ));
}
