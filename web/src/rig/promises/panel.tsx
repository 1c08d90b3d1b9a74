import { useCallback, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { RigPromise } from "../../api/client";
import { Button, useWide } from "../../ui";
import { STATES, withoutPromise } from "../model";
import { SidePanel } from "../parts/side-panel";
import { Photos } from "../photos";
import { Waiting } from "../searching";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { useBench } from "../use-bench";
import { useDay } from "../use-day";
import { useLit } from "../use-lit";
import { useStates } from "../use-states";
import { PromiseFields } from "./fields";
import { surfacesOf } from "./model";
import { PromisedTo } from "./person";
import { Recipes } from "./recipes";
import { TakesOf } from "./takes";

/** One promise: how it stands and why, what it would take, its fields, its way, and its conditions, the broken ones on top. */
export function PromisePanel({ id }: { id: string }) {
  const { rig, edit } = useDraft();
  const { answer, catalogue } = useAnswer();
  const { light } = useLit();
  const states = useStates();
  const { close } = usePanel();
  const unlight = useCallback(() => light(undefined), [light]);
  const surfaces = useMemo(() => surfacesOf(rig, catalogue), [catalogue, rig]);
  const promise = rig.promises.find((one) => one.id === id);
  if (!promise) return null;
  const words = answer?.drawing.promises[id] ?? id;
  const state = STATES[states[id] ?? "asked"];
  const drop = () => {
    close();
    edit((now) => withoutPromise(now, id));
  };
  return (
    <SidePanel title={`${promise.who}: ${words}`} onClose={unlight}>
      <p className={`text-xl font-bold ${state.colour}`}>
        <span aria-hidden>{state.mark}</span> {state.word}
      </p>
      <ProvenByHand promise={id} />
      <Why promise={promise} words={words} />
      <Recipes promise={id} />
      <h3 className="mt-5 mb-2 font-semibold">What is promised</h3>
      <div className="space-y-2">
        <PromiseFields promise={promise} surfaces={surfaces} />
        <PromisedTo key={promise.who} promise={promise} />
      </div>
      <Button weight="quiet" className="mt-2 -ml-3" aria-label={`Drop this promise: ${words}`} onClick={drop}>
        Drop this promise
      </Button>
      <RouteLines promise={id} />
      <Conditions promise={id} />
    </SidePanel>
  );
}

const MOST_TOLD = 4;
const SEEN = { proven: "Proven by hand", failed: "Seen not to work", spoilt: "Undone" } as const;

/** Who saw it working, and when; and what has to be proven again, because it rests on something else now. */
function ProvenByHand({ promise }: { promise: string }) {
  const { byHand } = useDay();
  const proof = byHand[promise];
  if (!proof) return null;
  const lapsed = proof.lapsed ?? [];
  return (
    <div className="mt-1 leading-snug">
      <p className="text-soft">
        {SEEN[proof.outcome]}
        {proof.person ? ` by ${proof.person}` : ""},{" "}
        {new Date(proof.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false })}, on revision {proof.revision}.
      </p>
      {proof.outcome === "failed" && proof.reason && <p className="mt-1 font-semibold text-warn">{proof.reason}</p>}
      {(proof.judged ?? [])
        .filter((one) => one.ask.unit || one.verdict === "fails")
        .map((one) => (
          <p key={one.ask.id} className={one.verdict === "fails" ? "font-semibold text-bad" : ""}>
            {one.ask.says} {one.read}
            {one.verdict === "fails" ? ": outside its limit" : ""}.
          </p>
        ))}
      {lapsed.length > 0 && proof.outcome === "proven" && (
        <p className="mt-1 font-semibold text-warn">It holds no longer. What it rests on now was not so then:</p>
      )}
      {lapsed.length > 0 && proof.outcome === "spoilt" && (
        <p className="mt-1 font-semibold text-warn">It holds no longer. What happened since:</p>
      )}
      <ul className="list-disc pl-5">
        {lapsed.slice(0, MOST_TOLD).map((says) => (
          <li key={says}>{says}</li>
        ))}
      </ul>
      {lapsed.length > MOST_TOLD && <p className="text-soft">And {lapsed.length - MOST_TOLD} more.</p>}
      <div className="mt-1 flex gap-2">
        <Photos photos={proof.photos ?? []} />
      </div>
    </div>
  );
}

/** Why it cannot be kept, and what it would take. */
function Why({ promise, words }: { promise: RigPromise; words: string }) {
  const { answer, unmet: all, reasons } = useAnswer();
  const [asking, setAsking] = useState(false);
  if (!answer?.not_kept.includes(promise.id)) return null;
  const unmet = all?.find((one) => one.promise === promise.id);
  return (
    <div className="mt-2 space-y-2 leading-snug">
      {!unmet && <Waiting name="reasons" query={{ ...reasons, data: undefined }} says="Finding out why" />}
      {unmet && !unmet.obstacles?.length && <p>{unmet.because}</p>}
      {(unmet?.obstacles ?? []).map((obstacle) => (
        <p key={obstacle.says}>{obstacle.says}</p>
      ))}
      {!asking &&
        (unmet?.ways_out ?? []).map((way) => (
          <p key={way} className="font-semibold">
            <span aria-hidden>→ </span>
            {way}
          </p>
        ))}
      {asking ? (
        <TakesOf promise={promise.id} />
      ) : (
        <Button weight="lead" aria-label={`What would it take? ${words}`} onClick={() => setAsking(true)}>
          What would it take?
        </Button>
      )}
    </div>
  );
}

function Conditions({ promise }: { promise: string }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { playback } = useBench();
  const { close } = usePanel();
  const broken = new Set(playback && playback.shown >= playback.run.frames.length ? playback.run.broken : []);
  const conditions = (answer?.conditions ?? [])
    .filter((condition) => condition.promises.includes(promise))
    .sort((one, other) => Number(broken.has(other.key)) - Number(broken.has(one.key)));
  if (conditions.length === 0) return null;
  return (
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
              onClick={close}
            >
              Go to its step
            </Link>
          </li>
        ))}
      </ol>
    </>
  );
}

function RouteLines({ promise }: { promise: string }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { close } = usePanel();
  const go = useNavigate();
  const isWide = useWide();
  const route = answer?.plan.routes.find((one) => one.promise === promise);
  if (!route || route.hops.length === 0) return null;
  const through = route.hops.filter((hop) => !hop.link);
  const onMap = () => {
    // On a phone the panel lies over the map; elsewhere both are in sight, and the map fits what is left.
    if (!isWide) close();
    void go(`/rigs/${rig.id}/wiring`);
  };
  return (
    <>
      <h3 className="mt-5 mb-1 font-semibold">Its way</h3>
      <ol className="space-y-1">
        {through.map((hop, number) => (
          <li key={number} className="flex justify-between gap-3 border-b border-edge py-1">
            <span>
              {number + 1}. {hop.words}
            </span>
            {route.delay_ms !== 0 && <span className="shrink-0 tabular-nums">+{hop.delay_ms} ms</span>}
          </li>
        ))}
      </ol>
      {route.delay_ms !== 0 && <p className="mt-1 text-right font-semibold tabular-nums">together {route.delay_ms} ms late</p>}
      <Button className="mt-2" onClick={onMap}>
        Show its way on the map
      </Button>
    </>
  );
}
