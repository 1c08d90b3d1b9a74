import { useQuery } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";

import type { Refusal, Run, Schemas } from "../api/client";
import type { Noted } from "./incidents";
import { proveStep } from "./keys";
import { proofsShown, stateOf, type PromiseState } from "./model";
import * as queries from "./queries";
import { useAnswer } from "./use-answer";
import { useDraft } from "./use-draft";
import { useSteps, type Mark, type More, type What } from "./use-steps";

export type ProofByHand = Schemas["ProofByHand"];
type Playback = { run: Run; shown: number; of: string };

export type Running = {
  /** Step -> how it stands, of all of which anything was said. */
  marks: Record<string, Mark>;
  /** Step -> since when it is done. */
  ticks: Record<string, string>;
  tick: (steps: readonly string[], done: boolean) => void;
  /** Say something else of steps: that they are skipped or do not look as they should, and why. */
  say: (steps: readonly string[], what: What, more?: More) => void;
  /** Say that something happened to a device: what rested on it has to be proven again. */
  happen: (what: Noted, device: string) => void;
  /** Step, stage or device -> whose it is; and giving it to somebody, or to nobody. */
  given: Record<string, string>;
  give: (subjects: readonly string[], to: string | null) => void;
  /** Put anything else into the log of this rig. */
  log: (what: Schemas["Entry"]["what"], subjects: readonly string[], reason?: string, more?: Record<string, unknown>) => void;
  untickAll: () => void;
  /** So many things that were done did not arrive yet, and wait in this browser. */
  inLine: number;
  logRefusal: Refusal | undefined;
  playback: Playback | undefined;
  carryOut: (skip: string[], whole: boolean) => Promise<Run>;
  show: (next: (shown: number) => number) => void;
  forgetRun: () => void;
  /** Promise -> who proved it by hand and when, and what spoilt that since. */
  byHand: Record<string, ProofByHand>;
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
  const show = useCallback((next: (shown: number) => number) => setPlayback((old) => old && { ...old, shown: next(old.shown) }), []);
  const forgetRun = useCallback(() => {
    asked.current = undefined;
    setPlayback(undefined);
  }, []);
  return { playback: kept?.of === document ? kept : undefined, carryOut, show, forgetRun };
}

/** Without the proofs that hold no longer, or were none: those steps are to be done again. */
function standing<T>(said: Record<string, T>, byHand: Record<string, ProofByHand>): Record<string, T> {
  const again = new Set(
    Object.values(byHand).flatMap((one) => (one.outcome === "proven" && one.lapsed?.length ? [proveStep(one.promise)] : [])),
  );
  return again.size === 0 ? said : Object.fromEntries(Object.entries(said).filter(([step]) => !again.has(step)));
}

/** What was proven by hand, of which some may hold no longer. */
function useProofs(marks: Record<string, Mark>): Record<string, ProofByHand> {
  const { rig } = useDraft();
  const { isPlanning } = useAnswer();
  // What waits in line is not known to the server yet.
  const proofs = new Set(rig.promises.map(({ id }) => proveStep(id)));
  const proven = Object.entries(marks).filter(([step, mark]) => proofs.has(step) && mark.what !== "skipped" && mark.revision > 0);
  const { data } = useQuery({ ...queries.proofsQuery(rig, JSON.stringify(proven)), enabled: proven.length > 0 && !isPlanning });
  return useMemo(() => Object.fromEntries((proven.length ? (data ?? []) : []).map((one) => [one.promise, one])), [data, proven.length]);
}

export function RunProvider({ children }: { children: ReactNode }) {
  const { rig, sync } = useDraft();
  const { answer } = useAnswer();
  const ticking = useSteps(rig.id, sync);
  const byHand = useProofs(ticking.marks);
  const bench = useBench();
  const proofs = proofsShown(bench.playback?.run, bench.playback?.shown ?? 0);
  const states = Object.fromEntries(
    rig.promises.map((promise) => [promise.id, stateOf(promise, answer, proofs, ticking.marks, byHand[promise.id])]),
  );
  return (
    <Context.Provider
      value={{ ...ticking, ...bench, states, byHand, marks: standing(ticking.marks, byHand), ticks: standing(ticking.ticks, byHand) }}
    >
      {children}
    </Context.Provider>
  );
}
