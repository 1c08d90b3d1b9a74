import { Button, NumberField } from "../../../ui";
import type { Answers, Ask } from "../model";
import { Delay } from "./delay";

type Props = {
  asks: readonly Ask[];
  answers: Answers;
  onAnswer: (ask: string, answer: Answers[string] | undefined) => void;
  onVerdict: (fails: boolean) => void;
};

/** What is looked at and read, a line each, with buttons that a glove hits. */
export function Asks({ asks, answers, onAnswer, onVerdict }: Props) {
  return (
    <ul className="divide-y divide-edge border-y border-edge">
      {asks.map((ask) => (
        <li key={ask.id} className="flex flex-wrap items-center gap-x-4 gap-y-2 py-2">
          <p className="min-w-44 flex-1 text-xl leading-snug">
            {ask.says}
            {!ask.is_needed && <span className="ml-2 text-base text-soft">if there is time</span>}
          </p>
          {ask.unit === "" && (
            <Seen
              ask={ask}
              seen={answers[ask.id]?.seen ?? undefined}
              onSeen={(seen) => onAnswer(ask.id, seen === undefined ? undefined : { seen })}
            />
          )}
          {ask.unit === "m" && (
            <NumberField
              label={ask.says}
              value={answers[ask.id]?.value}
              unit="m"
              min={0}
              max={100000}
              step={1}
              placeholder="not walked"
              onChange={(value) => onAnswer(ask.id, value === null ? undefined : { value })}
            />
          )}
          {ask.unit === "ms" && (
            <div className="basis-full">
              <Delay ask={ask} onRead={(film) => onAnswer(ask.id, film)} onVerdict={onVerdict} />
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}

function Seen({ ask, seen, onSeen }: { ask: Ask; seen: boolean | undefined; onSeen: (seen: boolean | undefined) => void }) {
  const choose = (value: boolean) => onSeen(seen === value ? undefined : value);
  return (
    <span role="group" aria-label={ask.says} className="flex gap-2">
      <Button
        className={`min-h-14 min-w-22 text-lg ${seen === true ? "border-2 border-good font-bold text-good" : ""}`}
        aria-pressed={seen === true}
        onClick={() => choose(true)}
      >
        ✔ Yes
      </Button>
      <Button
        className={`min-h-14 min-w-22 text-lg ${seen === false ? "border-2 border-bad font-bold text-bad" : ""}`}
        aria-pressed={seen === false}
        onClick={() => choose(false)}
      >
        ✕ No
      </Button>
    </span>
  );
}
