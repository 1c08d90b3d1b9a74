import { useCallback, useMemo, useRef, useState, type ReactNode } from "react";

import type { Proof, Run } from "../api/client";
import * as queries from "./queries";
import { useDraft } from "./use-draft";
import { withinRig } from "./within-rig";

type Playback = { run: Run; shown: number; of: string };

export type Bench = {
  /** The run of the rig as it is now, and how much of it has been shown. */
  playback: Playback | undefined;
  /** One run per document and steps left out, however often and fast somebody asks for it. */
  carryOut: (skip: string[], whole: boolean) => Promise<Run>;
  show: (next: (shown: number) => number) => void;
  forgetRun: () => void;
  /** Of each promise that was worked by hand at the bench, how it was seen. */
  worked: readonly Proof[];
  showWorked: (proofs: readonly Proof[]) => void;
};

const NONE: readonly Proof[] = [];

const [Provide, inRig] = withinRig<Bench>("useBench");

/** What has been carried out on the bench, and is played. */
export const useBench = inRig;

/** Keeps the last run of a rig. */
export function BenchProvider({ children }: { children: ReactNode }) {
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
  const playback = kept?.of === document ? kept : undefined;
  const [byHand, setByHand] = useState<{ of: string; proofs: readonly Proof[] }>();
  const showWorked = useCallback((proofs: readonly Proof[]) => setByHand({ of: document, proofs }), [document]);
  const worked = byHand?.of === document ? byHand.proofs : NONE;
  const bench = useMemo<Bench>(
    () => ({ playback, carryOut, show, forgetRun, worked, showWorked }),
    [playback, carryOut, show, forgetRun, worked, showWorked],
  );
  return <Provide value={bench}>{children}</Provide>;
}
