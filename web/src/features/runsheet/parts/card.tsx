import { useState, type ReactNode } from "react";

import type { Step } from "../../../api/client";
import { Button, Pictogram, TextInput, TickBox } from "../../../ui";
import { FindIt, BeforeYouPull, CablePlugs, PhotoButton, Photos, useEnds, type Mark } from "../../../rig";
import { Single } from "./single";
import { useSwipe } from "./use-swipe";
import { didIt, isDone, pictogramOf, spoken, STAGE_NAMES, type Card } from "../model";

const singleOf = (card: Card) => (card.steps.length === 1 ? card.steps[0] : undefined);

type Props = {
  card: Card;
  number: number;
  of: number;
  ticks: Record<string, string>;
  marks: Record<string, Mark>;
  onLine: (step: string) => void;
  mayTick: boolean;
  /** Whose it is, and giving it away. */
  whose: ReactNode;
  onSay: (what: Amiss, reason: string, photos: string[]) => void;
  onTick: () => void;
  /** Of a recipe: whether it worked, which is counted. */
  onTried: (worked: boolean) => void;
  onBack?: () => void;
  onNext?: () => void;
  /** What the next card is called. */
  then?: string;
  /** What goes on by itself meanwhile. */
  waits: ReactNode;
};

/** One card, to be read at arm's length: what to do, what to see when it is done, what to beware of. */
export function CardView({
  card,
  number,
  of,
  ticks,
  marks,
  mayTick,
  whose,
  onLine,
  onSay,
  onTick,
  onTried,
  onBack,
  onNext,
  then,
  waits,
}: Props) {
  const single = singleOf(card);
  const ticked = isDone(card, ticks);
  const swipe = useSwipe(onBack, onNext);
  return (
    <article
      aria-label="Step"
      className="flex min-h-0 touch-pan-y flex-col rounded-lg border border-edge bg-panel max-md:min-h-[calc(100dvh-11rem)]"
      {...swipe}
    >
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-auto px-5 py-4 max-md:px-3" tabIndex={0}>
        <Where card={card} number={number} of={of} />
        <h2 className="text-2xl leading-tight font-bold">{card.title}</h2>
        {single ? <Single step={single} /> : <Lines steps={card.steps} marks={marks} onLine={onLine} />}
        {single && marks[single.id] && <Said mark={marks[single.id]!} />}
        {whose}
        {!ticked && mayTick && <Otherwise key={card.steps[0]?.id} onSay={onSay} />}
        {single?.device && (
          <details>
            <summary className="flex min-h-11 cursor-pointer items-center text-soft">
              Before you pull it: what if this goes off later
            </summary>
            <BeforeYouPull device={single.device} />
          </details>
        )}
      </div>
      <Beware card={card} />
      <Bar
        card={card}
        mayTick={mayTick}
        ticked={ticked}
        onTick={onTick}
        onTried={onTried}
        onBack={onBack}
        onNext={onNext}
        then={then}
        waits={waits}
      />
    </article>
  );
}

type InBar = Pick<Props, "card" | "mayTick" | "onTick" | "onTried" | "onBack" | "onNext" | "then" | "waits"> & { ticked: boolean };

/** Back, done, next. On a phone it stays under the thumb, whatever the card holds. */
function Bar({ card, mayTick, ticked, onTick, onTried, onBack, onNext, then, waits }: InBar) {
  const single = singleOf(card);
  return (
    <div className="grid grid-cols-[1fr_2fr_1fr] gap-2 rounded-b-lg bg-panel p-4 pt-2 max-md:sticky max-md:-bottom-3 max-md:border-t max-md:border-edge max-md:p-2">
      <div className="col-span-3 flex flex-col gap-1">
        {waits}
        {then && <p className="truncate text-soft">Then: {then}</p>}
      </div>
      <Button className="min-h-16 text-lg" disabled={!onBack} onClick={onBack}>
        Back
      </Button>
      {single?.act.kind === "try-recipe" && !ticked ? (
        <Tried mayTick={mayTick} onTried={onTried} />
      ) : (
        <Button weight="lead" className="min-h-16 text-xl" disabled={!mayTick} onClick={onTick} aria-pressed={ticked}>
          {ticked ? "Done ✔, take the tick off" : single ? "Done" : "All done"}
        </Button>
      )}
      <Button className="min-h-16 text-lg" disabled={!onNext} onClick={onNext}>
        Next
      </Button>
    </div>
  );
}

/** A recipe was tried: either way it is counted. */
function Tried({ mayTick, onTried }: { mayTick: boolean; onTried: (worked: boolean) => void }) {
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      <Button weight="lead" className="min-h-16 text-lg" disabled={!mayTick} onClick={() => onTried(true)}>
        ✔ It worked
      </Button>
      <Button className="min-h-16 text-lg" disabled={!mayTick} onClick={() => onTried(false)}>
        ✕ It did not
      </Button>
    </div>
  );
}

/** Whether it is part of a recipe: no good manners, and no promise either; its title says maybe. */
const isOfRecipe = ({ act }: Step) => act.kind === "follow-recipe" || act.kind === "try-recipe";

/** Where in the sheet a card stands, and how long it takes. */
function Where({ card, number, of }: { card: Card; number: number; of: number }) {
  const single = singleOf(card);
  return (
    <p className="flex flex-wrap items-center gap-x-4 text-lg text-soft">
      <b className="flex items-center gap-2 text-ink">
        <Pictogram name={pictogramOf(card)} size={30} className="text-lead" />
        {STAGE_NAMES[card.stage]}
      </b>
      <span className="tabular-nums">
        {card.steps.length > 1 ? `${number}–${number + card.steps.length - 1}` : number} of {of}
      </span>
      <span>{spoken(card.steps.reduce((sum, step) => sum + step.takes_s, 0))}</span>
      {single && single.waits_s > 0 && <span>then wait {spoken(single.waits_s)}</span>}
      {single && single.people > 1 && <b className="text-warn">takes {single.people} people</b>}
      {card.steps.every((step) => step.care && !isOfRecipe(step)) && (
        <span className="rounded bg-raised px-2 font-semibold text-ink">care</span>
      )}
    </p>
  );
}

/** Warnings stand where they are seen without scrolling, next to the button that says done. */
function Beware({ card }: { card: Card }) {
  const single = singleOf(card);
  const isDrawn = useEnds(single) !== undefined;
  const cautions = [...new Set(card.steps.flatMap((step) => step.cautions ?? []))];
  const expects = [...new Set(card.steps.map((step) => step.expect))];
  return (
    <div className="space-y-2 border-t border-edge px-5 pt-3 text-lg leading-snug">
      {(isDrawn ? [] : (single?.avoid ?? [])).map((words) => (
        <p key={words} className="rounded-md border-l-8 border-warn bg-raised px-3 py-2 font-semibold">
          Look-alike! {words}.
        </p>
      ))}
      {cautions.map((caution) => (
        <p key={caution} className="rounded-md border-l-8 border-bad bg-raised px-3 py-2">
          <b>Caution. </b>
          {caution}
        </p>
      ))}
      {expects.length === 1 && (
        <p>
          <b className="text-good">Done when: </b>
          {expects[0]}
        </p>
      )}
    </div>
  );
}

const SAYS = { done: "✔", skipped: "– Skipped", differs: "▲ Does not look like that", spoilt: "↻ Do it again", "taken-back": "" } as const;

/** What was said of a step, why, by whom and when. */
function Said({ mark }: { mark: Mark }) {
  const look = {
    done: "text-good",
    skipped: "text-soft",
    differs: "font-semibold text-warn",
    spoilt: "font-semibold text-warn",
    "taken-back": "",
  }[mark.what];
  return (
    <span className={`block ${look}`}>
      {SAYS[mark.what]}
      {mark.reason ? `: ${mark.reason}` : ""} {mark.what === "done" ? didIt(mark) : `(${didIt(mark)})`}
      {mark.what === "differs" && <FindIt />}
      {(mark.photos ?? []).length > 0 && (
        <span className="mt-1 flex gap-2">
          <Photos photos={mark.photos ?? []} />
        </span>
      )}
    </span>
  );
}

type Amiss = "skipped" | "differs";
const ASKS: Record<Amiss, { name: string; why: string; says: string }> = {
  skipped: { name: "Skip it", why: "Why is it skipped", says: "Skip" },
  differs: { name: "Does not look like that", why: "What do you see", says: "Say so" },
};

/** What else can be said of a step: that it is left out, or does not look as it should; and why. */
function Otherwise({ onSay }: { onSay: (what: Amiss, reason: string, photos: string[]) => void }) {
  const [asking, setAsking] = useState<Amiss>();
  const [photos, setPhotos] = useState<string[]>([]);
  const [reason, setReason] = useState("");
  if (!asking)
    return (
      <div className="mt-auto -ml-3 flex flex-wrap gap-2">
        {(Object.keys(ASKS) as Amiss[]).map((what) => (
          <Button key={what} weight="quiet" onClick={() => setAsking(what)}>
            {ASKS[what].name}
          </Button>
        ))}
      </div>
    );
  const { why, says } = ASKS[asking];
  return (
    <form
      className="mt-auto flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(asking, reason.trim(), photos);
        setAsking(undefined);
        setReason("");
      }}
    >
      <label className="flex min-w-full flex-1 flex-wrap items-center gap-2 sm:min-w-72">
        <span className="shrink-0">{why}?</span>
        <TextInput
          autoFocus
          value={reason}
          maxLength={400}
          onChange={(event) => setReason(event.target.value)}
          className="min-w-56 flex-1"
        />
      </label>
      {asking === "differs" && <PhotoButton photos={photos} onPhotos={setPhotos} />}
      <Button type="submit" disabled={!reason.trim()}>
        {says}
      </Button>
      <Button weight="quiet" onClick={() => setAsking(undefined)}>
        Leave it
      </Button>
    </form>
  );
}

/** Several of a kind: a line each, ticked by itself. */
function Lines({ steps, marks, onLine }: { steps: readonly Step[]; marks: Record<string, Mark>; onLine: (step: string) => void }) {
  const alike = new Set(steps.map((step) => step.expect)).size === 1;
  return (
    <ul className="divide-y divide-edge">
      {steps.map((step) => {
        const mark = marks[step.id];
        const done = mark?.what === "done";
        return (
          <li key={step.id}>
            <label className="flex min-h-12 items-center gap-4 py-1">
              <TickBox checked={done} onChange={() => onLine(step.id)} />
              <span className={`leading-snug ${done ? "text-soft" : ""}`}>
                <span className="flex flex-wrap items-center gap-x-3">
                  <b className="text-lg leading-tight">{step.title}</b>
                  {step.act.kind === "lay-out" && <CablePlugs cable={step.act.cable} />}
                </span>
                {mark && <Said mark={mark} />}
                {(step.detail ?? []).join(" ")} {!alike && <span className="text-good">{step.expect}</span>}
                {(step.avoid ?? []).map((words) => (
                  <b key={words} className="block border-l-4 border-warn pl-2">
                    Look-alike! {words}.
                  </b>
                ))}
              </span>
            </label>
          </li>
        );
      })}
    </ul>
  );
}
