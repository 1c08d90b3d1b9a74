import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import type { Step } from "../../../api/client";
import { Button, Empty, Panel, TextInput, useKeepInView, useShortcuts } from "../../../ui";
import { asBuilt, inItsCases, useAnswer, useDraft, useMe, usePerson, useDay, type Mark } from "../../../rig";
import { byStage, cardsOf, countOf, heard, isDone, nextOpen, spoken, STAGE_NAMES, standingOf, type Card } from "../model";
import { crewOf, ownerOf, shownCards, type Whose } from "../crew";
import { crewQuery } from "../queries";
import { CardView } from "./card";
import { CrewPanel, Give, WhoseSteps } from "./crew";

/** One card large, the list beside it. Ticks stay. From the cases, or from the rig as it stands built. */
export function RunSheetScreen() {
  const { answer, isPlanning } = useAnswer();
  const { marks, ticks, tick, say, untickAll, given, give } = useDay();
  const { mayTick } = useMe();
  const [me] = usePerson();
  const [count, setCount] = useState(1);
  const [whose, setWhose] = useState<Whose>("all");
  const { rig, edit } = useDraft();
  const [search, setSearch] = useSearchParams();
  const [whole, setWhole] = useState(false);
  const since = whole ? null : answer?.since_built;
  const sheet = since ?? answer?.sheet;
  const cards = useMemo(() => cardsOf(sheet?.steps ?? []), [sheet]);
  const asked = cards.findIndex((card) => card.steps.some((step) => step.id === search.get("step")));
  const at = asked === -1 ? nextOpen(cards, marks) : asked;
  const card = cards[at];
  const go = (to: number) => {
    const next = cards[Math.max(0, Math.min(cards.length - 1, to))]?.steps[0];
    if (next) setSearch({ step: next.id }, { replace: true });
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
  const people = crewOf(me, marks, given, count);
  const { data: crewed } = useQuery({ ...crewQuery(rig, people, given, marks, whole), enabled: !isPlanning && Boolean(sheet) });
  const critical = useMemo(
    () => new Set(count > 1 ? crewed?.turns.filter((turn) => turn.is_critical).map((turn) => turn.step) : []),
    [crewed, count],
  );
  const markBuilt = () => {
    if (!answer) return;
    edit((rig) => asBuilt(rig, answer.flags));
    untickAll();
    setWhole(false);
  };
  useShortcuts([
    { keys: "j", does: "Next step", run: () => go(at + 1) },
    { keys: "k", does: "Step before", run: () => go(at - 1) },
    { keys: "arrowdown", does: "Next step", run: () => go(at + 1) },
    { keys: "arrowup", does: "Step before", run: () => go(at - 1) },
    { keys: "space", does: "Tick", run: toggle },
  ]);
  if (!answer || !sheet) return <p className="p-4 text-soft">Planning.</p>;
  const isBuilt = Boolean(answer.since_built);
  const bar = (
    <BuildBar
      isBuilt={isBuilt}
      whole={whole}
      onWhole={setWhole}
      onBuilt={markBuilt}
      onCases={() => edit(inItsCases)}
      hasChange={(answer.since_built?.steps.length ?? 0) > 0}
    />
  );
  if (!card)
    return (
      <Panel className="h-full" title={isBuilt ? "Built" : undefined}>
        {since ? (
          <Empty title="Nothing to do: it stands as planned">
            Change what is promised or what is in the case, and only what that spoils comes up here.
          </Empty>
        ) : (
          <Empty title="Nothing to do">No promise of this rig can be kept as it stands, so there is no run sheet.</Empty>
        )}
        {isBuilt && <div className="mx-auto max-w-xl">{bar}</div>}
      </Panel>
    );
  const steps = sheet.steps;
  const any = steps.some((one) => one.id in marks);
  return (
    <div className="grid gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <CardView
        key={card.steps[0]?.id}
        card={card}
        number={1 + cards.slice(0, at).reduce((sum, one) => sum + one.steps.length, 0)}
        of={steps.length}
        ticks={ticks}
        marks={marks}
        mayTick={mayTick}
        whose={
          mayTick &&
          card.steps[0] && (
            <Give
              step={card.steps[0]}
              stage={STAGE_NAMES[card.stage]}
              owner={ownerOf(card.steps[0], given)}
              people={people}
              onGive={(subject, to) => give(subject === card.steps[0]?.id ? card.steps.map(({ id }) => id) : [subject], to)}
            />
          )
        }
        onSay={(what, reason, photos) => {
          say(
            card.steps.map((step) => step.id).filter((id) => !(id in ticks)),
            what,
            { reason, photos },
          );
          if (what === "skipped") go(at + 1);
        }}
        onLine={(step) => tick([step], !(step in ticks))}
        onTick={toggle}
        onBack={at > 0 ? () => go(at - 1) : undefined}
        onNext={at < cards.length - 1 ? () => go(at + 1) : undefined}
      />
      <div className="flex min-h-0 flex-col gap-3">
        <CrewPanel
          crewed={crewed}
          people={people}
          count={count}
          steps={steps}
          marks={marks}
          onCount={setCount}
          onGo={(step) => setSearch({ step }, { replace: true })}
        />
        <Panel className="flex-1" title={countOf(steps, marks)} scroll actions={<NewDay disabled={!any} onClear={untickAll} />}>
          <p className="-mt-3 mb-2 text-sm text-soft">
            {since
              ? `From the rig as it stands: about ${spoken(since.takes_s)}. A full build takes ${spoken(answer.sheet.takes_s)}.`
              : `About ${spoken(sheet.takes_s)} in all.`}
          </p>
          <You />
          <Heard marks={marks} steps={steps} />
          {bar}
          {(since?.warnings ?? []).map((line) => (
            <p key={line} className="mb-1 text-sm text-warn">
              {line}
            </p>
          ))}
          <div className="flex items-center gap-2">
            <WhoseSteps whose={whose} onWhose={setWhose} />
            {critical.size > 0 && <span className="text-sm text-soft">◆ holds up the end</span>}
          </div>
          <CardList
            cards={cards}
            shown={shownCards(cards, whose, me, given, card)}
            at={at}
            marks={marks}
            given={given}
            critical={critical}
            onGo={go}
          />
        </Panel>
      </div>
    </div>
  );
}

/** What others do meanwhile, for who cannot see it. */
function Heard({ marks, steps }: { marks: Record<string, Mark>; steps: readonly Step[] }) {
  const [me] = usePerson();
  const [last, setLast] = useState(marks);
  const [says, setSays] = useState("");
  if (marks !== last) {
    setLast(marks);
    setSays(heard(last, marks, steps, me) || says);
  }
  return (
    <p aria-live="polite" className="sr-only">
      {says}
    </p>
  );
}

/** Whose ticks these are: the browser remembers the name. */
function You() {
  const [person, call] = usePerson();
  return (
    <label className="mb-2 flex items-center gap-2">
      <span className="shrink-0 text-soft">You are</span>
      <TextInput
        key={person}
        defaultValue={person}
        maxLength={60}
        placeholder="your name, for who did what"
        autoComplete="off"
        onBlur={(event) => call(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="min-w-0 flex-1"
      />
    </label>
  );
}

/** Where the sheet starts from: the cases, or what is built. */
function BuildBar({
  isBuilt,
  whole,
  onWhole,
  onBuilt,
  onCases,
  hasChange,
}: {
  isBuilt: boolean;
  whole: boolean;
  onWhole: (whole: boolean) => void;
  onBuilt: () => void;
  onCases: () => void;
  hasChange: boolean;
}) {
  if (!isBuilt)
    return (
      <Button className="mb-2 w-full" onClick={onBuilt}>
        It is built like this
      </Button>
    );
  return (
    <div className="mb-2 flex flex-wrap gap-2">
      <Button className="flex-1" aria-pressed={whole} onClick={() => onWhole(!whole)}>
        {whole ? "Only what changed" : "The whole build"}
      </Button>
      {hasChange && (
        <Button className="flex-1" onClick={onBuilt}>
          The change is built
        </Button>
      )}
      <Button className="flex-1" weight="quiet" onClick={onCases}>
        Back in its cases
      </Button>
    </div>
  );
}

function NewDay({ disabled, onClear }: { disabled: boolean; onClear: () => void }) {
  const [warned, setWarned] = useState(false);
  return (
    <Button
      weight="quiet"
      disabled={disabled}
      onBlur={() => setWarned(false)}
      onClick={() => {
        if (warned) onClear();
        setWarned(!warned);
      }}
    >
      {warned ? "Really take all ticks off" : "New day"}
    </Button>
  );
}

const LOOKS = {
  open: { mark: "○", says: "open", colour: "text-soft" },
  done: { mark: "✔", says: "done", colour: "text-good" },
  skipped: { mark: "–", says: "skipped", colour: "text-soft" },
  differs: { mark: "▲", says: "does not look like that", colour: "text-warn" },
  spoilt: { mark: "↻", says: "to be done again", colour: "text-warn" },
} as const;

function CardList({
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
