import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";

import { Refusal, type Rig, type Saved, type StaleAnswer } from "../api/client";
import { next, opened, SAVE_AFTER_MS, type Draft, type DraftEvent, type Effect } from "./draft";
import * as queries from "./queries";

export type Drafting = {
  saved: Saved;
  rig: Rig;
  refusal: Refusal | undefined;
  stale: StaleAnswer | undefined;
  edit: (change: (rig: Rig) => Rig) => void;
  /** The tape flags that the next change takes along, so that what stays keeps its own. */
  remember: (flags: Rig["flags"]) => void;
  undo: () => void;
  redo: () => void;
  settleStale: (keep: "mine" | "theirs") => void;
};

const Context = createContext<Drafting | undefined>(undefined);

/** The rig as it is being edited, and what can be done to it. */
export function useDraft(): Drafting {
  const draft = useContext(Context);
  if (!draft) throw new Error("useDraft stands outside a rig");
  return draft;
}

/** Runs the machine of a draft: keeps its state, does what it asks for, and tells whoever listens. */
class Desk {
  private listeners = new Set<() => void>();
  private timer = 0;
  private flags: Rig["flags"] | undefined;
  draft: Draft;

  constructor(
    first: Saved,
    private client: QueryClient,
  ) {
    this.draft = opened(first);
  }

  listen = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  now = () => this.draft;

  remember = (flags: Rig["flags"]) => {
    this.flags = flags;
  };

  edit = (change: (rig: Rig) => Rig) => {
    const { flags } = this;
    this.send({ type: "edit", change: (rig) => change(flags ? { ...rig, flags } : rig) });
  };

  send = (event: DraftEvent) => {
    const [draft, effect] = next(this.draft, event);
    this.draft = draft;
    this.listeners.forEach((listener) => listener());
    if (effect) void this.carryOut(effect);
  };

  /** What was changed in the last moment is written before the page is left. */
  leave = () => {
    if (this.draft.phase === "waiting") this.send({ type: "due" });
  };

  private async carryOut(effect: Effect): Promise<void> {
    window.clearTimeout(this.timer);
    if (effect.do === "wait") {
      this.timer = window.setTimeout(() => this.send({ type: "due" }), SAVE_AFTER_MS);
      return;
    }
    try {
      const saved = await this.ask(effect);
      this.client.setQueryData(queries.rigQuery(saved.document.id).queryKey, saved);
      void this.client.invalidateQueries({ queryKey: queries.rigsQuery.queryKey });
      this.send({ type: effect.do === "write" ? "written" : "moved", saved });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.send({ type: "failed", refusal: error });
    }
  }

  private ask(effect: Exclude<Effect, { do: "wait" }>): Promise<Saved> {
    const id = this.draft.rig.id;
    if (effect.do === "write") return queries.saveRig(id, effect.rig, effect.madeOn);
    if (effect.do === "fetch") return this.client.fetchQuery({ ...queries.rigQuery(id), staleTime: 0 });
    return (effect.by === "undo" ? queries.undoRig : queries.redoRig)(id, effect.madeOn);
  }
}

/** Holds the draft of one rig: saved a moment after each change, one write at a time. */
export function DraftProvider({ first, children }: { first: Saved; children: ReactNode }) {
  const client = useQueryClient();
  const [desk] = useState(() => new Desk(first, client));
  const { rig, saved, refusal, stale } = useSyncExternalStore(desk.listen, desk.now);
  useEffect(() => {
    // Closing the window or turning a phone off runs no clean-up of ours.
    window.addEventListener("pagehide", desk.leave);
    return () => {
      window.removeEventListener("pagehide", desk.leave);
      desk.leave();
    };
  }, [desk]);
  const drafting = useMemo<Drafting>(
    () => ({
      rig,
      saved,
      refusal,
      stale,
      edit: desk.edit,
      remember: desk.remember,
      undo: () => desk.send({ type: "move", by: "undo" }),
      redo: () => desk.send({ type: "move", by: "redo" }),
      settleStale: (keep) => desk.send({ type: "settle", keep }),
    }),
    [desk, refusal, rig, saved, stale],
  );
  return <Context.Provider value={drafting}>{children}</Context.Provider>;
}
