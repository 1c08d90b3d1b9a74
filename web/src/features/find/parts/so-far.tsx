import { Button, Panel } from "../../../ui";
import type { Answered, Sight } from "../model";

const WORDS: Record<Answered["answer"], string> = {
  seen: "",
  odd: "not as it should be",
  "now-and-then": "it comes and goes",
  "cannot-tell": "nobody could tell",
};

/** What was seen so far and by whom, each to be taken back. */
export function SoFar({
  step,
  seen,
  sights,
  disabled,
  onTakeBack,
}: {
  /** The step at which the search began. */
  step: string | undefined;
  seen: readonly Answered[];
  sights: readonly Sight[];
  disabled: boolean;
  onTakeBack: (look: string) => void;
}) {
  const says = new Map(sights.map((sight) => [sight.id, sight.says]));
  return (
    <Panel className="shrink-0" title="Seen so far">
      {step && <p className="mb-2">It began at “{step}”: that does not look as it should.</p>}
      <ol aria-label="Seen so far" className="space-y-1">
        {seen.map((one, number) => (
          // A look comes twice where something was mended in vain between.
          <li key={`${one.look} ${number}`} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 leading-tight">
              <b className="first-letter:uppercase">{one.saw || WORDS[one.answer]}</b>
              <span className="block text-sm text-soft">
                {says.get(one.look) ?? (one.look.startsWith("cure:") ? "A cure was tried" : "Said unasked")}
                {one.person && ` ${one.person}.`}
              </span>
            </span>
            <Button
              weight="quiet"
              disabled={disabled}
              aria-label={`Take back: ${says.get(one.look) ?? one.saw}`}
              onClick={() => onTakeBack(one.look)}
            >
              Take back
            </Button>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
