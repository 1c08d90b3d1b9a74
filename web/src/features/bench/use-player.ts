import { useCallback, useEffect, useState } from "react";

import { Refusal } from "../../api/client";
import { useBench } from "../../rig";
import { frameMs, type Speed } from "./model";

/** The run on the bench as it is played: a step at a time or all of it, at a speed, with steps left out. */
export function usePlayer() {
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

  const startOver = useCallback(() => {
    setPlaying(false);
    forgetRun();
  }, [forgetRun]);
  const leaveOut = (id: string) => {
    startOver();
    setSkip((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id]));
  };
  const turn = () => {
    startOver();
    setWhole(!whole);
  };
  const toTheEnd = () => (isPlaying && run ? show(() => run.frames.length) : setPlaying(true));
  return { run, shown, ended, isPlaying, setPlaying, speed, setSpeed, skip, whole, turn, refusal, step, startOver, leaveOut, toTheEnd };
}

export type Player = ReturnType<typeof usePlayer>;
