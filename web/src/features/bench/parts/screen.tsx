import { useCallback, useEffect, useState } from "react";

import { Refusal } from "../../../api/client";
import { Button, Empty, Panel, useShortcuts } from "../../../ui";
import { Problems, useAnswer, useDraft, useBench } from "../../../rig";
import { clock, frameMs, looksAt, SPEEDS, type Speed } from "../model";
import { BenchDevice } from "./device";
import { Narration } from "./narration";

/** Carry the run sheet out on the simulated rig: a step at a time, or all. */
export function BenchScreen() {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { playback, carryOut, show, forgetRun } = useBench();
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState<Speed>(4);
  const [skip, setSkip] = useState<string[]>([]);
  const [whole, setWhole] = useState(false);
  const [refusal, setRefusal] = useState<Refusal>();
  const run = playback?.run;
  const shown = playback?.shown ?? 0;
  const ended = run !== undefined && shown >= run.frames.length;
  const isPlaying = playing && !ended;

  const step = useCallback(async () => {
    setRefusal(undefined);
    try {
      const current = await carryOut(skip, whole);
      show((before) => Math.min(current.frames.length, before + 1));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      setPlaying(false);
      setRefusal(error);
    }
  }, [carryOut, show, skip, whole]);

  useEffect(() => {
    if (!isPlaying) return;
    const timer = window.setTimeout(() => void step(), run ? frameMs(run, shown, speed) : 0);
    return () => window.clearTimeout(timer);
  }, [isPlaying, run, shown, speed, step]);

  const over = useCallback(() => {
    setPlaying(false);
    forgetRun();
  }, [forgetRun]);
  const leaveOut = (id: string) => {
    over();
    setSkip((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id]));
  };
  useShortcuts([
    { keys: "space", does: "Do one step", run: () => void step() },
    {
      keys: "a",
      does: isPlaying ? "To the end" : "Do all",
      run: () => (isPlaying && run ? show(() => run.frames.length) : setPlaying(true)),
    },
    { keys: "r", does: "Start over", run: over },
  ]);
  if (!answer) return <p className="p-4 text-soft">Planning.</p>;
  const since = whole ? null : answer.since_built;
  const steps = (since ?? answer.sheet).steps;
  const from = answer.since_built && (
    <Button
      aria-pressed={whole}
      onClick={() => {
        over();
        setWhole(!whole);
      }}
    >
      {whole ? "Only what changed" : "The whole build"}
    </Button>
  );
  if (steps.length === 0)
    return (
      <Panel title="Bench" className="h-full" actions={from}>
        {since ? (
          <Empty title="Nothing to carry out: it stands as planned">
            Change what is promised or what is in the case, and only what that spoils is carried out here.
          </Empty>
        ) : (
          <Empty title="Nothing to carry out">No promise of this rig can be kept as it stands.</Empty>
        )}
      </Panel>
    );
  const looks = run ? looksAt(run, shown) : [];
  const frame = run?.frames[shown - 1];
  const fresh = new Set(frame?.changed.map((look) => look.device));
  return (
    <div className="grid gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_25rem]">
      <Panel
        title={run ? `Bench at ${clock(frame?.at_s ?? 0)}` : "Bench"}
        scroll
        actions={
          <>
            {from}
            <SpeedChoice speed={speed} onChange={setSpeed} />
          </>
        }
      >
        <div className="mb-3 flex flex-wrap items-center gap-2">
          {ended ? (
            <Button weight="lead" className="min-h-14 min-w-36 text-lg" onClick={over}>
              Start over
            </Button>
          ) : isPlaying ? (
            <Button weight="lead" className="min-h-14 min-w-36 text-lg" onClick={() => setPlaying(false)}>
              Hold
            </Button>
          ) : (
            <Button weight="lead" className="min-h-14 min-w-36 text-lg" onClick={() => setPlaying(true)}>
              Do all
            </Button>
          )}
          {!ended && (
            <Button className="min-h-14 text-lg" disabled={isPlaying} onClick={() => void step()}>
              Do one step
            </Button>
          )}
          {run && !ended && (
            <Button className="min-h-14" onClick={over}>
              Start over
            </Button>
          )}
          {ended && run && (
            <Verdict proven={rig.promises.length - run.unproven.length} of={rig.promises.length} broken={run.broken.length} />
          )}
        </div>
        <Problems refusal={refusal} />
        {!run && (
          <Empty title={since ? "The rig stands as it was built" : "The rig lies in its cases"}>
            Do one step or all: the run sheet is carried out on a simulated rig, and each promise {since && "that it touches "}
            is worked at the end. Leave a step out in the list to see what it is good for.
          </Empty>
        )}
        <ul className="grid gap-3 sm:grid-cols-2 2xl:grid-cols-3">
          {looks.map((look) => (
            <BenchDevice key={look.device} look={look} fresh={fresh.has(look.device)} />
          ))}
        </ul>
      </Panel>
      <Panel title="Steps" scroll>
        <Narration steps={steps} run={run} shown={shown} skip={skip} onLeaveOut={leaveOut} />
      </Panel>
    </div>
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
