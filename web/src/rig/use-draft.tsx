import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { createContext, useContext, useMemo, useRef, type ReactNode } from "react";

import { type Refusal, type Rig, type Saved } from "../api/client";
import { useDocument, type DraftSync, type Draft, type Keeper } from "../keeping";
import * as queries from "./queries";

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

const Context = createContext<Drafting | undefined>(undefined);

/** The rig as it is being edited, and what can be done to it. */
export function useDraft(): Drafting {
  const draft = useContext(Context);
  if (!draft) throw new Error("useDraft stands outside a rig");
  return draft;
}

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
  return <Context.Provider value={drafting}>{children}</Context.Provider>;
}
