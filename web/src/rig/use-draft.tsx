import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo, useRef, type ReactNode } from "react";

import { type Refusal, type Rig, type Saved } from "../api/client";
import { useDocument, type DraftSync, type Draft, type Keeper } from "../keeping";
import * as queries from "./queries";
import { withinRig } from "./within-rig";

export type Drafting = {
  saved: Saved;
  rig: Rig;
  refusal: Refusal | undefined;
  edit: (change: (rig: Rig) => Rig) => void;
  /** The tape flags that the next change takes along, so that what stays keeps its own. */
  remember: (flags: Rig["flags"]) => void;
  undo: () => void;
  redo: () => void;
  draft: Draft<Rig>;
  sync: DraftSync<Rig>;
};

const [Provide, inRig] = withinRig<Drafting>("useDraft");

/** The rig as it is being edited, and what can be done to it. */
export const useDraft = inRig;

const keeper = (id: string, client: QueryClient): Keeper<Rig> => ({
  path: `rig/${id}`,
  save: (rig, madeOn) => queries.saveRig(id, rig, madeOn),
  aside: (rig, madeOn, newest) => queries.setRigAside(id, rig, madeOn, newest),
  move: (by, madeOn) => (by === "undo" ? queries.undoRig : queries.redoRig)(id, madeOn),
  backTo: (revision, madeOn) => queries.backTo(id, revision, madeOn),
  revision: (number) => queries.oneRevision(id, number),
  history: (before) => queries.historyPage(id, before),
  fetch: () => client.fetchQuery({ ...queries.rigQuery(id), staleTime: 0 }),
  onSaved: (saved) => {
    client.setQueryData(queries.rigQuery(id).queryKey, saved);
    void client.invalidateQueries({ queryKey: queries.rigsQuery.queryKey });
  },
});

/** Holds the draft of one rig. */
export function DraftProvider({ first, children }: { first: Saved; children: ReactNode }) {
  const client = useQueryClient();
  const [draft, sync] = useDocument(first, keeper(first.document.id, client));
  const flags = useRef<Rig["flags"]>(undefined);
  const drafting = useMemo<Drafting>(
    () => ({
      rig: draft.document,
      saved: draft.saved as Saved,
      refusal: draft.refusal,
      edit: (change) => {
        const given = flags.current;
        sync.send({ type: "edit", change: (rig) => change(given ? { ...rig, flags: given } : rig) });
      },
      remember: (given) => {
        flags.current = given;
      },
      undo: () => sync.send({ type: "move", by: "undo" }),
      redo: () => sync.send({ type: "move", by: "redo" }),
      draft,
      sync,
    }),
    [sync, draft],
  );
  return <Provide value={drafting}>{children}</Provide>;
}
