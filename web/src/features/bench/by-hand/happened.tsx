import type { Step } from "../../../api/client";
import { Button, Panel } from "../../../ui";
import { clock } from "../model";
import { costs } from "./model";
import { useAhead, type Hands } from "./use-hands";

/** What was done and felt, the last thing first; where one rehearses, what was otherwise and what it costs. */
export function Happened({ hands }: { hands: Hands }) {
  const told = hands.bench?.told.toReversed() ?? [];
  const otherwise = new Map(hands.bench?.otherwise?.map((one) => [one.number, one]));
  return (
    <Panel className="min-h-48 flex-1" title="What happened" scroll>
      {told.length === 0 && <p className="text-soft">Nothing yet. Tap a device, and do something.</p>}
      <ol className="-mt-2">
        {told.map((one, place) => {
          const cost = otherwise.get(one.number);
          return (
            <li key={one.number} className="border-b border-edge py-1.5 leading-tight" aria-live={place === 0 ? "polite" : undefined}>
              <span className="flex justify-between gap-2 text-sm text-soft">
                <span>{one.says}</span>
                <span className="tabular-nums">{clock(one.at_s)}</span>
              </span>
              <b className={one.could ? "" : "text-warn"}>
                {!one.could && "▲ "}
                {one.seen}
              </b>
              {one.worked?.map((proof) => (
                <span key={proof.promise} className={`block text-sm font-semibold ${proof.ok ? "text-good" : "text-warn"}`}>
                  {proof.ok ? "✔ That was promised, and it works." : "▲ That was promised, and fails."}
                </span>
              ))}
              {cost && (
                <span className="mt-1 block border-l-4 border-warn pl-2 text-sm">
                  {HOW[cost.how]}: {costs(cost.costs_s)}
                  {cost.later && cost.later.length > 0 && `. Now also: ${cost.later.join("; ")}`}.
                </span>
              )}
            </li>
          );
        })}
      </ol>
    </Panel>
  );
}

const HOW = { earlier: "Not the sheet's next step", beside: "Not on the sheet", refused: "Could not be done" } as const;

/** Where the sheet goes on: its next card beside the hands, and the rest of it. */
export function GoesOn({ hands }: { hands: Hands }) {
  const { data: sheet, isFetching } = useAhead(hands.newest?.id, true);
  const next = sheet?.steps[0];
  const left = sheet?.steps.length ?? 0;
  return (
    <Panel
      className="shrink-0"
      title={sheet && !next ? "The sheet is done" : "The sheet goes on"}
      actions={sheet && next && <span className="text-soft">{left === 1 ? "last step" : `${left} steps left`}</span>}
    >
      {next ? <Next step={next} hands={hands} isOld={isFetching} /> : <p>{sheet ? "Everything stands as planned." : "Working it out."}</p>}
    </Panel>
  );
}

function Next({ step, hands, isOld }: { step: Step; hands: Hands; isOld: boolean }) {
  return (
    <>
      <p className="text-lg leading-tight font-semibold">{step.title}</p>
      {step.detail?.map((line) => (
        <p key={line} className="text-sm leading-snug">
          {line}
        </p>
      ))}
      <p className="text-sm text-soft">See: {step.expect}</p>
      {step.cautions?.map((line) => (
        <p key={line} className="mt-1 border-l-4 border-warn pl-2 text-sm">
          {line}
        </p>
      ))}
      <div className="mt-2 flex gap-2">
        <Button disabled={isOld} onClick={() => hands.go({ kind: "step", step: step.id })}>
          Do it as it says
        </Button>
        {step.device && (
          <Button weight="quiet" onClick={() => hands.lookAt(step.device!)}>
            To the device
          </Button>
        )}
      </div>
    </>
  );
}
