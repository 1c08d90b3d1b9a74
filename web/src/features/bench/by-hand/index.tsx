import { useEffect, useState, type ReactNode } from "react";

import type { Proof } from "../../../api/client";
import { Problems, useBench, useMe } from "../../../rig";
import { Button, Dialog, OnItsWay, Panel, useShortcuts } from "../../../ui";
import { clock } from "../model";
import { AtHand } from "./at-hand";
import { Begin } from "./begin";
import { ExerciseHere } from "./exercise";
import { GoesOn, Happened } from "./happened";
import { InHand } from "./in-hand";
import { Tiles } from "./tiles";
import { useHands, type Hands } from "./use-hands";

const NONE: Proof[] = [];
const WAITS = [
  [10, "10 s"],
  [60, "1 min"],
  [600, "10 min"],
] as const;

/** The bench under the hands: every device as it is, and whatever a hand tries. */
export function ByHand({ ways }: { ways: ReactNode }) {
  const hands = useHands();
  const { mayTick } = useMe();
  useShortcuts([
    { keys: "u", does: "Undo the last move", run: hands.undo },
    { keys: "y", does: "Do again what was undone", run: hands.redo },
  ]);
  if (!hands.isKnown) return <OnItsWay says="Looking for the bench" />;
  if (!hands.newest)
    return (
      <div className="flex flex-col gap-2 @3xl:h-full">
        {ways}
        <Panel className="flex-1">
          <Problems refusal={hands.refusal} />
          <Begin hands={hands} />
        </Panel>
      </div>
    );
  if (!hands.bench) return hands.refusal ? <Problems refusal={hands.refusal} /> : <OnItsWay says="Laying the rig out" />;
  return <Standing hands={hands} mayTick={mayTick} ways={ways} />;
}

function Standing({ hands, mayTick, ways }: { hands: Hands; mayTick: boolean; ways: ReactNode }) {
  const isRehearsal = hands.beginning?.rehearses;
  const isExercise = Boolean(hands.beginning?.hunt ?? hands.beginning?.blind);
  const { showWorked } = useBench();
  const worked = isExercise || hands.isOld ? NONE : (hands.bench?.worked ?? NONE);
  // The column of promises tells what works here; what fails in an exercise fails on purpose.
  useEffect(() => showWorked(worked), [worked, showWorked]);
  return (
    <fieldset disabled={!mayTick} className="flex min-w-0 flex-col gap-2 @3xl:h-full">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {ways}
        <Bar hands={hands} />
      </div>
      <Problems refusal={hands.refusal} />
      <Last hands={hands} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] gap-2 @3xl:grid-cols-[9.5rem_minmax(0,1fr)_18.5rem]">
        <Tiles hands={hands} />
        <div className="min-h-0 @3xl:overflow-auto" tabIndex={0} aria-label="The device at hand">
          <AtHand key={hands.device} hands={hands} />
        </div>
        <div className="flex min-h-0 flex-col gap-2 @3xl:overflow-auto" tabIndex={0} aria-label="Cables, sheet, what happened">
          {isExercise && <ExerciseHere key={hands.newest?.id} hands={hands} />}
          <InHand hands={hands} />
          {isExercise ? null : isRehearsal ? <GoesOn hands={hands} /> : <WhereNext hands={hands} />}
          <Happened hands={hands} />
        </div>
      </div>
    </fieldset>
  );
}

/** What the last thing came to, large enough to be read without looking for it. */
function Last({ hands }: { hands: Hands }) {
  const last = hands.bench?.told.at(-1);
  if (!last) return null;
  return (
    <p role="status" className={`border-l-8 bg-panel px-3 py-1.5 leading-snug ${last.could ? "border-good" : "border-warn"}`}>
      <span className="text-sm text-soft">{last.says}</span>
      <b className="block text-lg">{last.seen}</b>
    </p>
  );
}

/** The clock, the way back, waiting, and to begin anew. */
function Bar({ hands }: { hands: Hands }) {
  const [isAsked, ask] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <b className="min-w-16 text-2xl tabular-nums" aria-label="The bench's clock">
        {clock(hands.bench?.clock_s ?? 0)}
      </b>
      <Button disabled={hands.bench?.count === 0} onClick={hands.undo}>
        Undo
      </Button>
      <Button disabled={hands.newest?.could_redo === 0} onClick={hands.redo}>
        Redo
      </Button>
      <span role="group" aria-label="Wait" className="flex items-center gap-1">
        <span className="pl-2 text-soft">Wait</span>
        {WAITS.map(([seconds, says]) => (
          <Button key={says} onClick={() => hands.go({ kind: "wait", seconds })}>
            {says}
          </Button>
        ))}
      </span>
      <Button weight="quiet" onClick={() => ask(true)}>
        Begin anew
      </Button>
      {hands.isOld && (
        <p role="status" className="w-full border-l-4 border-warn pl-2">
          The rig was changed since this bench began: it is as it was then. Begin anew to have it as it is now.
        </p>
      )}
      <Dialog open={isAsked} title="Begin anew" onClose={() => ask(false)}>
        <Begin hands={hands} onBegun={() => ask(false)} />
      </Dialog>
    </div>
  );
}

/** Without rehearsing: where the sheet would go on is a question that one may ask. */
function WhereNext({ hands }: { hands: Hands }) {
  const [isAsked, ask] = useState(false);
  if (isAsked) return <GoesOn hands={hands} />;
  return (
    <Button className="min-h-14 shrink-0" onClick={() => ask(true)}>
      Where would the sheet go on?
    </Button>
  );
}
