import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";

import { Refusal, type Answer, type Catalogue, type Rig, type Run, type Saved, type StaleAnswer } from "../../api/client";
import { proofsShown, stateOf, type PromiseState } from "./model";
import * as queries from "./queries";

type Playback = { run: Run; shown: number; of: string };

export type Workspace = {
  saved: Saved;
  rig: Rig;
  answer: Answer | undefined;
  catalogue: Catalogue | undefined;
  isPlanning: boolean;
  refusal: Refusal | undefined;
  stale: StaleAnswer | undefined;
  edit: (change: (rig: Rig) => Rig) => void;
  undo: () => void;
  redo: () => void;
  settleStale: (keep: "mine" | "theirs") => void;
  ticks: Record<string, string>;
  tick: (step: string, done: boolean) => void;
  untickAll: () => void;
  playback: Playback | undefined;
  carryOut: (skip: string[]) => Promise<Run>;
  show: (next: (shown: number) => number) => void;
  forgetRun: () => void;
  states: Record<string, PromiseState>;
  lit: string | undefined;
  light: (promise: string | undefined) => void;
};

const Context = createContext<Workspace | undefined>(undefined);

export function useWorkspace(): Workspace {
  const workspace = useContext(Context);
  if (!workspace) throw new Error("useWorkspace stands outside a rig");
  return workspace;
}

const SAVE_AFTER_MS = 350;

/** The rig as it is being edited: saved a moment after each change, one write at a time. */
function useDraft(first: Saved) {
  const client = useQueryClient();
  const [saved, setSaved] = useState(first);
  const [rig, setRig] = useState(first.document);
  const [refusal, setRefusal] = useState<Refusal>();
  const [stale, setStale] = useState<StaleAnswer>();
  const now = useRef({ rig: first.document, revision: first.revision, writing: false, timer: 0, dirty: false });

  const take = useCallback(
    (next: Saved) => {
      now.current.revision = next.revision;
      setSaved(next);
      setRefusal(undefined);
      client.setQueryData(queries.rigQuery(next.document.id).queryKey, next);
      void client.invalidateQueries({ queryKey: queries.rigsQuery.queryKey });
    },
    [client],
  );
  const fail = useCallback((error: unknown) => {
    if (!(error instanceof Refusal)) throw error;
    if (error.status === 409) setStale(error.answer as StaleAnswer);
    else setRefusal(error);
  }, []);

  const write = useCallback(async () => {
    const state = now.current;
    window.clearTimeout(state.timer);
    while (state.dirty && !state.writing) {
      state.writing = true;
      state.dirty = false;
      try {
        take(await queries.saveRig(state.rig.id, state.rig, state.revision));
      } catch (error) {
        // Nothing is lost: the change waits for the next edit, or for the two versions to be settled.
        state.dirty = true;
        fail(error);
        return;
      } finally {
        state.writing = false;
      }
    }
  }, [fail, take]);

  const edit = useCallback(
    (change: (rig: Rig) => Rig) => {
      const state = now.current;
      state.rig = change(state.rig);
      state.dirty = true;
      setRig(state.rig);
      window.clearTimeout(state.timer);
      state.timer = window.setTimeout(() => void write(), SAVE_AFTER_MS);
    },
    [write],
  );

  const move = useCallback(
    async (by: typeof queries.undoRig) => {
      await write();
      try {
        const next = await by(now.current.rig.id, now.current.revision);
        now.current.rig = next.document;
        setRig(next.document);
        take(next);
      } catch (error) {
        fail(error);
      }
    },
    [fail, take, write],
  );

  const settleStale = useCallback(
    (keep: "mine" | "theirs") => {
      if (!stale) return;
      now.current.revision = stale.head;
      setStale(undefined);
      if (keep === "mine") edit((mine) => ({ ...mine }));
      else
        void client.fetchQuery({ ...queries.rigQuery(now.current.rig.id), staleTime: 0 }).then((theirs) => {
          now.current.rig = theirs.document;
          now.current.dirty = false;
          setRig(theirs.document);
          take(theirs);
        });
    },
    [client, edit, stale, take],
  );
  return { saved, rig, refusal, stale, edit, move, settleStale };
}

function useTicks(id: string) {
  const client = useQueryClient();
  const query = queries.ticksQuery(id);
  const { data } = useQuery(query);
  const put = (ticks: Record<string, string>) => client.setQueryData(query.queryKey, ticks);
  const set = useMutation({
    mutationFn: ({ step, done }: { step: string; done: boolean }) => queries.tickStep(id, step, done),
    onSuccess: put,
  });
  const clear = useMutation({ mutationFn: () => queries.clearTicks(id), onSuccess: () => put({}) });
  return { ticks: data ?? NONE, tick: (step: string, done: boolean) => set.mutate({ step, done }), untickAll: clear.mutate };
}

const NONE: Record<string, string> = {};

export function WorkspaceProvider({ first, children }: { first: Saved; children: ReactNode }) {
  const draft = useDraft(first);
  const { rig } = draft;
  const ticking = useTicks(rig.id);
  const { data: catalogue } = useQuery(queries.catalogueQuery);
  const { data: answer, error, isFetching } = useQuery(queries.answerQuery(rig));
  const [kept, setPlayback] = useState<Playback>();
  const [lit, light] = useState<string>();
  const document = useMemo(() => JSON.stringify(rig), [rig]);
  const playback = kept?.of === document ? kept : undefined;

  // One run per document and steps left out, however often and fast somebody asks for it.
  const asked = useRef<{ key: string; run: Promise<Run> }>(undefined);
  const carryOut = useCallback(
    (skip: string[]) => {
      const key = JSON.stringify([document, skip]);
      if (asked.current?.key !== key) {
        const run = queries.runBench(rig, skip).then((made) => {
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

  const proofs = proofsShown(playback?.run, playback?.shown ?? 0);
  const states = Object.fromEntries(
    rig.promises.map((promise) => [promise.id, stateOf(promise, answer, proofs, ticking.ticks)]),
  );
  const workspace: Workspace = {
    ...draft,
    ...ticking,
    undo: () => void draft.move(queries.undoRig),
    redo: () => void draft.move(queries.redoRig),
    answer,
    catalogue,
    isPlanning: isFetching,
    refusal: error instanceof Refusal ? error : draft.refusal,
    playback,
    carryOut,
    show,
    forgetRun,
    states,
    lit: rig.promises.some((promise) => promise.id === lit) ? lit : undefined,
    light,
  };
  return <Context.Provider value={workspace}>{children}</Context.Provider>;
}
