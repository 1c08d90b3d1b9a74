import { useSearchParams } from "react-router";

import { Problems, StepPicture, useAnswer, useDraft } from "../../../rig";
import { Button, Empty, ofKind, OnItsWay, Panel, useShortcuts } from "../../../ui";
import { clock, looksAt, SPEEDS, type Speed } from "../model";
import { ByHand } from "../by-hand";
import { usePlayer, type Player } from "../use-player";
import { BenchDevice } from "./device";
import { Narration } from "./narration";

/** The simulated rig: the run sheet carried out on it, or under one's own hands. */
export function BenchScreen() {
  const [asked, ask] = useSearchParams();
  const isByHand = asked.get("by") === "hand";
  const ways = (
    <div role="group" aria-label="Who works at the bench" className="flex gap-1">
      {WAYS.map(([by, says]) => (
        <Button
          key={says}
          weight={isByHand === (by === "hand") ? "lead" : "plain"}
          aria-pressed={isByHand === (by === "hand")}
          onClick={() => ask(by ? { by } : {}, { replace: true })}
        >
          {says}
        </Button>
      ))}
    </div>
  );
  if (isByHand) return <ByHand ways={ways} />;
  return (
    <div className="flex flex-col gap-2 @3xl:h-full">
      {ways}
      <div className="min-h-0 flex-1">
        <BySheet />
      </div>
    </div>
  );
}

const WAYS = [
  ["", "By the sheet"],
  ["hand", "By hand"],
] as const;

/** Carry the run sheet out on the simulated rig: a step at a time, or all. */
function BySheet() {
  const { answer } = useAnswer();
  const player = usePlayer();
  const { run, shown, isPlaying, whole, turn } = player;
  useShortcuts([
    { keys: "space", does: "Do one step", run: () => void player.step() },
    { keys: "a", does: isPlaying ? "To the end" : "Do all", run: player.toTheEnd },
    { keys: "r", does: "Start over", run: player.startOver },
  ]);
  if (!answer) return <OnItsWay says="Planning" />;
  const since = whole ? null : answer.since_built;
  const steps = (since ?? answer.sheet).steps;
  const last = run && shown > 0 ? steps.find(({ id }) => id === run.frames[shown - 1]?.step) : undefined;
  const from = answer.since_built && (
    <Button aria-pressed={whole} onClick={turn}>
      {whole ? "Only what changed" : "The whole build"}
    </Button>
  );
  if (steps.length === 0)
    return (
      <Panel title="Bench" className="h-full" actions={from}>
        <NothingToCarryOut isBuilt={Boolean(since)} />
      </Panel>
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_25rem]">
      <Panel
        title={run ? `Bench at ${clock(run.frames[shown - 1]?.at_s ?? 0)}` : "Bench"}
        scroll
        actions={
          <>
            {from}
            <SpeedChoice speed={player.speed} onChange={player.setSpeed} />
          </>
        }
      >
        <Controls player={player} />
        <Problems refusal={player.refusal} />
        {!run && (
          <Empty title={since ? "The rig stands as it was built" : "The rig lies in its cases"}>
            Do one step or all: the run sheet is carried out on a simulated rig, and each promise {since && "that it touches "}
            is worked at the end. Leave a step out in the list to see what it is good for.
          </Empty>
        )}
        {last && <StepPicture step={last} />}
        <Devices player={player} />
      </Panel>
      <Panel title="Steps" scroll>
        <Narration steps={steps} run={run} shown={shown} skip={player.skip} onLeaveOut={player.leaveOut} />
      </Panel>
    </div>
  );
}

function NothingToCarryOut({ isBuilt }: { isBuilt: boolean }) {
  return isBuilt ? (
    <Empty title="Nothing to carry out: it stands as planned">
      Change what is promised or what is in the case, and only what that spoils is carried out here.
    </Empty>
  ) : (
    <Empty title="Nothing to carry out">No promise of this rig can be kept as it stands.</Empty>
  );
}

/** What can be done next; at the end, what came of it. */
function Controls({ player }: { player: Player }) {
  const { rig } = useDraft();
  const { run, ended, isPlaying, setPlaying, step, startOver } = player;
  const [says, does] = ended
    ? ["Start over", startOver]
    : isPlaying
      ? ["Hold", () => setPlaying(false)]
      : ["Do all", () => setPlaying(true)];
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <Button weight="lead" className="min-h-14 min-w-36 text-lg" onClick={does}>
        {says}
      </Button>
      {!ended && (
        <Button className="min-h-14 text-lg" disabled={isPlaying} onClick={() => void step()}>
          Do one step
        </Button>
      )}
      {run && !ended && (
        <Button className="min-h-14" onClick={startOver}>
          Start over
        </Button>
      )}
      {ended && run && <Verdict proven={rig.promises.length - run.unproven.length} of={rig.promises.length} broken={run.broken.length} />}
    </div>
  );
}

/** Every device as it shows itself now; what the last step changed stands out. */
function Devices({ player: { run, shown } }: { player: Player }) {
  const { answer } = useAnswer();
  const kinds = new Map(answer?.drawing.devices.map(({ id, kind }) => [id, kind]));
  const fresh = new Set(run?.frames[shown - 1]?.changed.map((look) => look.device));
  return (
    <ul className="grid gap-3 sm:grid-cols-2 2xl:grid-cols-3">
      {(run ? looksAt(run, shown) : []).map((look) => (
        <BenchDevice key={look.device} kind={ofKind(kinds.get(look.device) ?? "")} look={look} fresh={fresh.has(look.device)} />
      ))}
    </ul>
  );
}

function SpeedChoice({ speed, onChange }: { speed: Speed; onChange: (speed: Speed) => void }) {
  return (
    <div role="group" aria-label="Speed" className="flex gap-1">
      {SPEEDS.map((one) => (
        <Button key={one} weight={one === speed ? "lead" : "plain"} aria-pressed={one === speed} onClick={() => onChange(one)}>
          {one}×
        </Button>
      ))}
    </div>
  );
}

function Verdict({ proven, of, broken }: { proven: number; of: number; broken: number }) {
  return (
    <p role="status" className="px-2 text-lg font-semibold">
      {proven} of {of} promises proven{broken > 0 && `, ${broken} conditions broken`}.
    </p>
  );
}
