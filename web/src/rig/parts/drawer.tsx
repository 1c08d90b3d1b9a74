import { Link } from "react-router";

import { Dialog } from "../../ui";
import { STATES } from "../model";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { useRun } from "../use-run";

/** One promise: how it stands, its way, its delay, and its conditions, the broken ones on top. */
export function PromiseDrawer({ promise: id, onClose }: { promise: string | undefined; onClose: () => void }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { states, playback } = useRun();
  const promise = rig.promises.find((one) => one.id === id);
  if (!promise || !answer) return null;
  const state = STATES[states[promise.id] ?? "asked"];
  const unmet = answer.plan.unmet.find((one) => one.promise === id);
  const broken = new Set(playback && playback.shown >= playback.run.frames.length ? playback.run.broken : []);
  const conditions = answer.conditions
    .filter((condition) => condition.promises.includes(promise.id))
    .sort((one, other) => Number(broken.has(other.key)) - Number(broken.has(one.key)));
  return (
    <Dialog open onClose={onClose} side="right" title={`${promise.who}: ${answer.drawing.promises[promise.id] ?? ""}`}>
      <p className={`text-xl font-bold ${state.colour}`}>
        <span aria-hidden>{state.mark}</span> {state.word}
      </p>
      {unmet && (
        <div className="mt-3 space-y-3">
          <p>{unmet.because}</p>
          {unmet.ways_out && unmet.ways_out.length > 0 && (
            <>
              <h3 className="font-semibold">Ways out</h3>
              <ul className="list-disc pl-5">
                {unmet.ways_out.map((way) => (
                  <li key={way}>{way}</li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
      <RouteLines promise={promise.id} />
      {conditions.length > 0 && (
        <>
          <h3 className="mt-5 mb-2 font-semibold">
            {conditions.length} conditions{broken.size > 0 && `, ${conditions.filter((c) => broken.has(c.key)).length} broken`}
          </h3>
          <ol className="space-y-2">
            {conditions.map((condition) => (
              <li
                key={condition.key}
                className={`rounded-md border-l-8 bg-raised p-3 ${broken.has(condition.key) ? "border-bad" : "border-edge"}`}
              >
                <p className="font-medium">
                  {broken.has(condition.key) && <b className="text-bad">Broken. </b>}
                  {condition.says}
                </p>
                <p className="text-sm text-soft">Look: {condition.check}</p>
                <Link
                  className="mt-1 inline-flex min-h-11 items-center underline"
                  to={`/rigs/${rig.id}/run-sheet?step=${encodeURIComponent(condition.made_by)}`}
                  onClick={onClose}
                >
                  Go to its step
                </Link>
              </li>
            ))}
          </ol>
        </>
      )}
    </Dialog>
  );
}

function RouteLines({ promise }: { promise: string }) {
  const { answer } = useAnswer();
  const route = answer?.plan.routes.find((one) => one.promise === promise);
  if (!route || route.hops.length === 0) return null;
  const through = route.hops.filter((hop) => !hop.link);
  return (
    <>
      <h3 className="mt-5 mb-1 font-semibold">Its way</h3>
      <ol className="space-y-1">
        {through.map((hop, number) => (
          <li key={number} className="flex justify-between gap-3 border-b border-edge py-1">
            <span>
              {number + 1}. {hop.words}
            </span>
            {route.delay_ms !== 0 && <span className="tabular-nums">+{hop.delay_ms} ms</span>}
          </li>
        ))}
      </ol>
      {route.delay_ms !== 0 && <p className="mt-1 text-right font-semibold tabular-nums">together {route.delay_ms} ms late</p>}
    </>
  );
}
