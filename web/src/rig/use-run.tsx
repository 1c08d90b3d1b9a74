import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";

import type { Refusal, Run } from "../api/client";
import { proofsShown, stateOf, type PromiseState } from "./model";
import * as queries from "./queries";
import { useAnswer } from "./use-answer";
import { useDraft } from "./use-draft";
import { useSteps, type Mark } from "./use-steps";

type Playback = { run: Run; shown: number; of: string };

export type Running = {
  /** Step -> how it stands, of all of which anything was said. */
  marks: Record<string, Mark>;
  /** Step -> since when it is done. */
  ticks: Record<string, string>;
  tick: (steps: readonly string[], done: boolean) => void;
  /** Say something else of steps: that they are skipped or do not look as they should, and why. */
  say: (steps: readonly string[], what: Mark["what"], reason?: string) => void;
  untickAll: () => void;
  /** So many things that were done did not arrive yet, and wait in this browser. */
  inLine: number;
  logRefusal: Refusal | undefined;
  playback: Playback | undefined;
  carryOut: (skip: string[], whole: boolean) => Promise<Run>;
  show: (next: (shown: number) => number) => void;
  forgetRun: () => void;
  /** How each promise stands, by what was planned, run on the bench, and ticked. */
  states: Record<string, PromiseState>;
};

const Context = createContext<Running | undefined>(undefined);

/** What has been carried out: on the day, by ticks; on the bench, by a run that is played. */
export function useRun(): Running {
  const running = useContext(Context);
  if (!running) throw new Error("useRun stands outside a rig");
  return running;
}

/** The bench: one run per document and steps left out, however often and fast somebody asks for it. */
function useBench() {
  const { rig } = useDraft();
  const document = useMemo(() => JSON.stringify(rig), [rig]);
  const [kept, setPlayback] = useState<Playback>();
  const asked = useRef<{ key: string; run: Promise<Run> }>(undefined);
  const carryOut = useCallback(
    (skip: string[], whole: boolean) => {
      const key = JSON.stringify([document, skip, whole]);
      if (asked.current?.key !== key) {
        const run = queries.runBench(rig, skip, whole).then((made) => {
          setPlayback({ run: made, shown: 0, of: document });
          return made;
        });
        run.catch(() => (asked.current = undefined));
        asked.current = { key, run };
      }
      return asked.current.run;
    },
    [document, rig],
  );
  const show = useCallback(
    (next: (shown: number) => number) => setPlayback((old) => old && { ...old, shown: next(old.shown) }),
    [],
  );
  const forgetRun = useCallback(() => {
    asked.current = undefined;
    setPlayback(undefined);
  }, []);
  return { playback: kept?.of === document ? kept : undefined, carryOut, show, forgetRun };
}

export function RunProvider({ children }: { children: ReactNode }) {
  const { rig, desk } = useDraft();
  const { answer } = useAnswer();
  const ticking = useSteps(rig.id, desk);
  const bench = useBench();
  const proofs = proofsShown(bench.playback?.run, bench.playback?.shown ?? 0);
  const states = Object.fromEntries(
    rig.promises.map((promise) => [promise.id, stateOf(promise, answer, proofs, ticking.ticks)]),
  );
  return <Context.Provider value={{ ...ticking, ...bench, states }}>{children}</Context.Provider>;
}
