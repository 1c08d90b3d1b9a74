import { useMutation, useMutationState, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";

import { Refusal, type Rig, type Run } from "../api/client";
import { type Desk, mayPass, retryAfter, useAskBeforeClosing } from "../keeping";
import { proofsShown, stateOf, type PromiseState } from "./model";
import * as queries from "./queries";
import { useAnswer } from "./use-answer";
import { useDraft } from "./use-draft";

type Playback = { run: Run; shown: number; of: string };

export type Running = {
  ticks: Record<string, string>;
  tick: (steps: readonly string[], done: boolean) => void;
  untickAll: () => void;
  /** So many ticks did not arrive, and are tried again. */
  unsavedTicks: number;
  tickRefusal: Refusal | undefined;
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

const NONE: Record<string, string> = {};

function withTicks(ticks: Record<string, string>, steps: readonly string[], done: boolean): Record<string, string> {
  const others = Object.entries(ticks).filter(([step]) => !steps.includes(step));
  return Object.fromEntries(done ? [...others, ...steps.map((step) => [step, "now"] as const)] : others);
}

function useTicks(id: string, desk: Desk<Rig>) {
  const client = useQueryClient();
  const query = queries.ticksQuery(id);
  const { data } = useQuery(query);
  const put = (ticks: Record<string, string>) => client.setQueryData(query.queryKey, ticks);
  const set = useMutation({
    // One after the other, so that the last answer knows of all; what does not arrive is tried again.
    scope: { id: `ticks-${id}` },
    retry: (_, error) => error instanceof Refusal && mayPass(error),
    retryDelay: (tries) => retryAfter(tries + 1),
    mutationKey: ["tick", id],
    mutationFn: async ({ steps, done }: { steps: readonly string[]; done: boolean }) => {
      // A step of a sheet is ticked once the sheet's rig is saved: until then the server knows of no such step.
      await desk.whenSaved();
      let after = data ?? NONE;
      for (const step of steps) after = await queries.tickStep(id, step, done);
      return after;
    },
    // A tick is seen at once; what the server knows takes its place.
    onMutate: ({ steps, done }) => put(withTicks(data ?? NONE, steps, done)),
    onSuccess: put,
    onError: () => client.invalidateQueries({ queryKey: query.queryKey }),
  });
  const clear = useMutation({ mutationFn: () => queries.clearTicks(id), onSuccess: () => put({}) });
  const unsaved = useMutationState({ filters: { mutationKey: ["tick", id], status: "pending" }, select: (one) => one.state.failureCount > 0 });
  const isUnsaved = unsaved.includes(true);
  useAskBeforeClosing(isUnsaved);
  return {
    ticks: data ?? NONE,
    tick: (steps: readonly string[], done: boolean) => set.mutate({ steps, done }),
    untickAll: clear.mutate,
    unsavedTicks: isUnsaved ? unsaved.length : 0,
    tickRefusal: [set.error, clear.error].find((one) => one instanceof Refusal),
  };
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
  const ticking = useTicks(rig.id, desk);
  const bench = useBench();
  const proofs = proofsShown(bench.playback?.run, bench.playback?.shown ?? 0);
  const states = Object.fromEntries(
    rig.promises.map((promise) => [promise.id, stateOf(promise, answer, proofs, ticking.ticks)]),
  );
  return <Context.Provider value={{ ...ticking, ...bench, states }}>{children}</Context.Provider>;
}
