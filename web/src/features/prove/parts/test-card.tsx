import { useState } from "react";

import { FindIt, PhotoButton, STATES, type More, type PromiseState, type ProofByHand } from "../../../rig";
import { Button, TextInput } from "../../../ui";
import { isRefuted, missingOf, readingsOf, type Answers, type Test } from "../model";
import { Asks } from "./asks";
import { Known } from "./known";

/** One promise and how it is proven: what to see, what to read, and whether it works. */
export function TestCard({
  test,
  state,
  proof,
  cautions,
  mayTick,
  onSay,
}: {
  test: Test;
  state: PromiseState;
  proof: ProofByHand | undefined;
  cautions: readonly string[];
  mayTick: boolean;
  onSay: (what: "done" | "differs", more: More) => void;
}) {
  const [answers, setAnswers] = useState<Answers>({});
  const [reason, setReason] = useState("");
  const [photos, setPhotos] = useState<string[]>([]);
  const asks = test.asks;
  const [isLate, setLate] = useState(false);
  const refuted = isRefuted(answers) || isLate;
  const missing = missingOf(asks, answers);
  const say = (what: "done" | "differs") =>
    onSay(what, { reason: reason.trim() || undefined, readings: readingsOf(asks, answers), photos });
  const look = STATES[state];
  return (
    <article aria-label="Test" className="flex min-h-0 flex-col rounded-lg border border-edge bg-panel">
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto px-5 py-4" tabIndex={0}>
        <p className={`text-lg font-semibold ${look.colour}`}>
          <span aria-hidden>{look.mark}</span> {look.word} <span className="ml-3 font-normal text-soft">for {test.who}</span>
          {state === "failing" && <FindIt />}
        </p>
        <h2 className="text-3xl leading-tight font-bold first-letter:uppercase">{test.words}</h2>
        <Known proof={proof} />
        <Asks
          asks={asks}
          answers={answers}
          onAnswer={(ask, answer) => setAnswers((old) => without(old, ask, answer))}
          onVerdict={setLate}
        />
        <label className="flex flex-wrap items-center gap-2">
          <span className="shrink-0">What do you see?</span>
          <TextInput
            value={reason}
            maxLength={4000}
            onChange={(event) => setReason(event.target.value)}
            placeholder={refuted ? "for whoever looks for the fault" : "if there is anything to say"}
            className="min-w-56 flex-1"
          />
        </label>
        <PhotoButton photos={photos} onPhotos={setPhotos} />
      </div>
      <div className="space-y-2 rounded-b-lg border-t border-edge bg-panel p-4 max-md:sticky max-md:-bottom-3 max-md:p-2">
        {cautions.map((caution) => (
          <p key={caution} className="rounded-md border-l-8 border-bad bg-raised px-3 py-2 text-lg leading-snug">
            <b>Caution. </b>
            {caution}
          </p>
        ))}
        <div className="grid grid-cols-[1fr_2fr] gap-2">
          <Button className="min-h-16 text-lg" disabled={!mayTick} onClick={() => say("differs")}>
            ▲ It does not work
          </Button>
          <Button weight="lead" className="min-h-16 text-xl" disabled={refuted || !mayTick} onClick={() => say("done")}>
            {missing.length === 0
              ? "✔ It works"
              : `✔ It works, ${missing.length === 1 ? "one thing" : `${missing.length} things`} not looked at`}
          </Button>
        </div>
      </div>
    </article>
  );
}

function without(old: Answers, ask: string, answer: Answers[string] | undefined): Answers {
  const rest = Object.fromEntries(Object.entries(old).filter(([id]) => id !== ask));
  return answer ? { ...rest, [ask]: answer } : rest;
}
