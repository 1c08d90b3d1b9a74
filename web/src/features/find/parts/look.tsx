import { useState } from "react";

import { Button, Panel, Pictogram, useWide } from "../../../ui";
import { goes, lasts, percent, type Answered, type Finding, type NextLook } from "../model";
import { Lamp } from "./lamp";

type Say = (look: string, answer: Answered["answer"], saw?: string) => void;

/** What to look at next: one thing, what may be seen there as buttons, and why just this. */
export function Look({
  finding,
  mending,
  crew,
  disabled,
  name,
  onSay,
}: {
  finding: Finding;
  /** What is being mended beside it: that is no look. */
  mending: readonly string[];
  crew: readonly string[];
  disabled: boolean;
  name: (device: string) => string;
  onSay: Say;
}) {
  const [chosen, choose] = useState(0);
  const choices = [...finding.next, ...finding.glances].filter((one) => !mending.some((id) => one.id === `cure:${id}`));
  const look = choices[chosen] ?? choices[0];
  if (!look)
    return (
      <Panel className="shrink-0" title="Nothing more to look at">
        <p>No look that is known here tells any of these apart.</p>
      </Panel>
    );
  return (
    <Panel
      className="shrink-0"
      title={mending.length > 0 ? "Or look once more" : look.is_again ? "Look once more" : look.is_cure ? "Try this" : "Look here next"}
    >
      <OneLook look={look} disabled={disabled} onSay={onSay} />
      <Why
        look={look}
        others={choices.filter((one) => one !== look)}
        finding={finding}
        crew={crew}
        name={name}
        onChoose={(id) => choose(choices.findIndex((one) => one.id === id))}
      />
    </Panel>
  );
}

function OneLook({ look, disabled, onSay }: { look: NextLook; disabled: boolean; onSay: Say }) {
  return (
    <>
      <p className="flex items-start gap-3 text-xl leading-snug font-semibold">
        <Pictogram name={look.is_cure ? "set" : "look"} className="mt-1 text-soft" />
        {look.says}
      </p>
      {look.is_again && <p className="mt-1">What was seen here does not fit the rest. Look at it with fresh eyes.</p>}
      <p className="mt-1 text-soft">
        {lasts(look.takes_s)}. {goes(look)}
        {look.undoes_s > 0 && ` It undoes work of ${lasts(look.undoes_s)}.`}
      </p>
      {look.stills_gimbal && (
        <p className="mt-1 rounded border-l-8 border-warn bg-raised p-2 font-semibold">Motors off first: hands go into the cage.</p>
      )}
      <div role="group" aria-label="What do you see?" className="mt-3 grid gap-2 @md:grid-cols-2">
        {look.outcomes.map((outcome) => (
          <Button
            key={outcome.words}
            disabled={disabled}
            className="min-h-14 justify-start text-left first-letter:uppercase"
            onClick={() => onSay(look.id, "seen", outcome.words)}
          >
            <Lamp look={look.id} words={outcome.words} />
            <span className="first-letter:uppercase">{outcome.words}</span>
          </Button>
        ))}
      </div>
      <div role="group" aria-label="Or" className="mt-2 flex flex-wrap gap-2">
        {!look.is_cure && (
          <>
            <Button disabled={disabled} className="min-h-14 flex-1 text-soft" onClick={() => onSay(look.id, "odd")}>
              Something else
            </Button>
            <Button disabled={disabled} className="min-h-14 flex-1 text-soft" onClick={() => onSay(look.id, "now-and-then")}>
              It comes and goes
            </Button>
          </>
        )}
        <Button disabled={disabled} className="min-h-14 flex-1 text-soft" onClick={() => onSay(look.id, "cannot-tell")}>
          Can’t tell
        </Button>
      </div>
    </>
  );
}

function Why({
  look,
  others,
  finding,
  crew,
  name,
  onChoose,
}: {
  look: NextLook;
  others: readonly NextLook[];
  finding: Finding;
  crew: readonly string[];
  name: (device: string) => string;
  onChoose: (id: string) => void;
}) {
  const isWide = useWide();
  const says = new Map(finding.causes.flatMap((cause) => cause.ids.map((id, number) => [id, cause.says[number] ?? id])));
  return (
    <details className="mt-3" open={isWide}>
      <summary className="min-h-11 cursor-pointer content-center font-semibold">Why this, and what else</summary>
      <ul className="space-y-1">
        {look.outcomes.map((outcome) => {
          const left = outcome.leaves.flatMap((id) => says.get(id) ?? []);
          return (
            <li key={outcome.words}>
              <b className="first-letter:uppercase">{outcome.words}</b> ({percent(outcome.share)})
              {left.length > 0 && `: then ${left.join(", or ")}`}
            </li>
          );
        })}
      </ul>
      {look.search_s != null && <p className="mt-1 text-soft">With it first, the search takes some {lasts(look.search_s)} more.</p>}
      {others.length > 0 && (
        <ul aria-label="Other looks" className="mt-2 space-y-1">
          {others.map((other) => (
            <li key={other.id}>
              <Button weight="quiet" className="w-full justify-start text-left" onClick={() => onChoose(other.id)}>
                <Pictogram name={other.is_cure ? "set" : "look"} className="text-soft" />
                <span>
                  {other.says}
                  <span className="block text-sm text-soft">
                    {lasts(other.takes_s)}
                    {other.device && `, at ${name(other.device)}`}. {whyNot(other, look)}
                  </span>
                </span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {crew.length > 0 && <p className="mt-2 text-soft">A crew would suspect, in this order: {crew.join(", ")}.</p>}
    </details>
  );
}

/** Why another look does not come first. */
function whyNot(other: NextLook, look: NextLook): string {
  if (other.search_s != null && look.search_s != null && other.search_s > look.search_s + 1)
    return `With it first the search takes ${lasts(other.search_s - look.search_s)} longer.`;
  if (other.undoes_s > look.undoes_s) return `It undoes work of ${lasts(other.undoes_s)}.`;
  return goes(other);
}
