import { useState } from "react";

import type { Schemas, Step } from "../../../api/client";
import { inItsCases, useDay, useDraft, usePerson, type Mark } from "../../../rig";
import { Button, Panel, TextInput } from "../../../ui";
import { shownCards } from "../crew";
import { countOf, heard, spoken, type Card } from "../model";
import type { OnTheSheet } from "../use-crew";
import type { Sheet } from "../use-sheet";
import { CardList } from "./card-list";
import { PrintSheet } from "./printed";
import { CrewPanel, WhoseSteps } from "./crew";

/** Beside the card: the crew, how far the sheet is, where it starts from, and every card of it. */
export function Side({ at, crew, of, card }: { at: Sheet; crew: OnTheSheet; of: Schemas["RunSheet"]; card: Card }) {
  const { marks, untickAll, given } = useDay();
  const [me] = usePerson();
  const { since, answer, cards, go } = at;
  const { steps } = of;
  const isTouched = steps.some((one) => one.id in marks);
  return (
    <div className="flex min-h-0 flex-col gap-3">
      <CrewPanel
        crewed={crew.crewed}
        people={crew.people}
        count={crew.count}
        steps={steps}
        marks={marks}
        onCount={crew.setCount}
        onGo={at.goTo}
      />
      <Panel className="flex-1" title={countOf(steps, marks)} scroll actions={<NewDay disabled={!isTouched} onClear={untickAll} />}>
        <p className="-mt-3 mb-2 text-sm text-soft">
          {since && answer
            ? `From the rig as it stands: about ${spoken(since.takes_s)}. A full build takes ${spoken(answer.sheet.takes_s)}.`
            : `About ${spoken(of.takes_s)} in all.`}
        </p>
        <You />
        <Heard marks={marks} steps={steps} />
        <BuildBar at={at} />
        <PrintSheet cards={cards} />
        {(since?.warnings ?? []).map((line) => (
          <p key={line} className="mb-1 text-sm text-warn">
            {line}
          </p>
        ))}
        <div className="flex items-center gap-2">
          <WhoseSteps whose={crew.whose} onWhose={crew.setWhose} />
          {crew.critical.size > 0 && <span className="text-sm text-soft">◆ holds up the end</span>}
        </div>
        <CardList
          cards={cards}
          shown={shownCards(cards, crew.whose, me, given, card)}
          at={at.at}
          marks={marks}
          given={given}
          critical={crew.critical}
          onGo={go}
        />
      </Panel>
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
export function BuildBar({ at }: { at: Sheet }) {
  const { edit } = useDraft();
  const built = at.answer?.since_built;
  if (!built)
    return (
      <Button className="mb-2 w-full" onClick={at.markBuilt}>
        It is built like this
      </Button>
    );
  return (
    <div className="mb-2 flex flex-wrap gap-2">
      <Button className="flex-1" aria-pressed={at.whole} onClick={() => at.setWhole(!at.whole)}>
        {at.whole ? "Only what changed" : "The whole build"}
      </Button>
      {built.steps.length > 0 && (
        <Button className="flex-1" onClick={at.markBuilt}>
          The change is built
        </Button>
      )}
      <Button className="flex-1" weight="quiet" onClick={() => edit(inItsCases)}>
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
