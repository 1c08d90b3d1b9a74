import { createPortal } from "react-dom";

import type { Step } from "../../../api/client";
import { useDraft, useEnds } from "../../../rig";
import { Button, Pictogram, usePrinting } from "../../../ui";
import { byStage, pictogramOf, STAGE_NAMES, type Card } from "../model";
import { Single } from "./single";

/** Prints the whole sheet: every card with its picture, a box to tick, what to see, what to beware of. */
export function PrintSheet({ cards }: { cards: readonly Card[] }) {
  const { rig } = useDraft();
  const [isPrinting, print] = usePrinting();
  return (
    <>
      <Button className="max-md:hidden" onClick={print}>
        Print the sheet
      </Button>
      {isPrinting &&
        createPortal(
          <article data-report="sheet" className="hidden print:block">
            <h1 className="mb-3 text-xl font-bold">{rig.name}: run sheet</h1>
            {byStage(cards).map((run) => (
              <section key={run.cards[0]?.steps[0]?.id}>
                <h2 className="mt-4 mb-1 border-b-2 border-ink text-lg font-bold">{STAGE_NAMES[run.stage]}</h2>
                {run.cards.map((card) => (
                  <Printed key={card.steps[0]?.id} card={card} />
                ))}
              </section>
            ))}
          </article>,
          document.body,
        )}
    </>
  );
}

function Printed({ card }: { card: Card }) {
  const only = card.steps.length === 1 ? card.steps[0] : undefined;
  return (
    <section className="break-inside-avoid border-b border-edge py-2">
      <h3 className="flex items-center gap-2 font-bold">
        {only && <Box />}
        <Pictogram name={pictogramOf(card)} /> {card.title}
      </h3>
      <div className="pl-8">
        {only ? <Single step={only} /> : card.steps.map((step) => <Line key={step.id} step={step} />)}
        {only && <Ends step={only} />}
      </div>
    </section>
  );
}

const Box = () => <span aria-hidden className="inline-block size-5 shrink-0 border-2 border-ink" />;

function Line({ step }: { step: Step }) {
  return (
    <div className="py-1">
      <p className="flex gap-2">
        <Box /> <span>{[step.title, ...(step.detail ?? [])].join(" — ")}</span>
      </p>
      <Ends step={step} />
    </div>
  );
}

function Ends({ step }: { step: Step }) {
  const isDrawn = useEnds(step) !== undefined;
  return (
    <>
      {(isDrawn ? [] : (step.avoid ?? [])).map((words) => (
        <p key={words} className="font-semibold">
          Look-alike! {words}.
        </p>
      ))}
      {(step.cautions ?? []).map((caution) => (
        <p key={caution} className="font-semibold">
          Caution. {caution}
        </p>
      ))}
      <p>Done when: {step.expect}</p>
    </>
  );
}
