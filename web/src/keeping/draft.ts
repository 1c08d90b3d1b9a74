import { Refusal } from "../api/client";

/** So long after the last change the draft is saved: quick enough to be forgotten, slow enough for one word of typing. */
export const SAVE_AFTER_MS = 350;
const RETRY_MS = [1_000, 2_000, 4_000, 8_000, 15_000];

/** How long to wait before the next try, after so many that failed. */
export const retryAfter = (tries: number) => RETRY_MS[Math.min(tries, RETRY_MS.length) - 1] ?? RETRY_MS[0]!;

/** A document as it is kept: `revision` only ever goes up. */
export type Saved<D> = { document: D; revision: number; made_at: string; can_undo: boolean; can_redo: boolean };

/** A version that somebody else made meanwhile. */
export type Other<D> = { head: number; theirs: D };

/**
 * Where a draft is between the screen and the database.
 *
 * still: nothing is under way. waiting: changed, to be written soon. writing: a write is under way. moving: an undo, a
 * redo or a fetch is under way. retrying: a write did not arrive and is tried again. stale: there are two versions;
 * nothing is written until that is settled.
 */
export type Phase = "still" | "waiting" | "writing" | "moving" | "retrying" | "stale";

export type Draft<D> = {
  document: D;
  saved: Saved<D>;
  phase: Phase;
  /** There are changes that no write has taken up yet. */
  dirty: boolean;
  /**
   * What the last write held, while no answer to it came: it may stand in the database or not. It is written again as
   * it was, and only then what was changed since: else one's own write would be met as somebody else's.
   */
  sent?: D;
  /** What is to be done once all is written. */
  wish?: Move;
  refusal?: Refusal;
  other?: Other<D>;
  /** So many writes in a row did not arrive. */
  tries: number;
};

export type Move = "undo" | "redo";
export type Keep = "mine" | "theirs";

export type DraftEvent<D> =
  | { type: "edit"; change: (document: D) => D }
  | { type: "due" }
  | { type: "move"; by: Move }
  | { type: "settle"; keep: Keep }
  | { type: "heard"; revision: number }
  | { type: "written"; saved: Saved<D> }
  | { type: "moved"; saved: Saved<D> }
  | { type: "failed"; refusal: Refusal };

/** What has to be done outside: wait, write, move in the history, fetch what others made, keep mine beside theirs. */
export type Effect<D> =
  | { do: "wait"; ms: number }
  | { do: "write"; document: D; madeOn: number }
  | { do: "aside"; document: D; madeOn: number; newest: number }
  | { do: "move"; by: Move; madeOn: number }
  | { do: "fetch" };

type Next<D> = [Draft<D>, Effect<D>?];

export const opened = <D>(saved: Saved<D>): Draft<D> => ({ document: saved.document, saved, phase: "still", dirty: false, tries: 0 });

/** A draft that was left unsaved before: written at once, or settled first where somebody else wrote meanwhile. */
export function resumed<D>(saved: Saved<D>, document: D, madeOn: number, sent?: D): Next<D> {
  const draft: Draft<D> = { ...opened(saved), document, dirty: true, sent, saved: { ...saved, revision: madeOn } };
  // Whether the newer revision is what this one sent, the database tells.
  if (madeOn === saved.revision || sent)
    return [
      { ...draft, phase: "waiting" },
      { do: "wait", ms: 0 },
    ];
  return [{ ...draft, phase: "stale", other: { head: saved.revision, theirs: saved.document } }];
}

/** What stands in sight of how a draft is kept. */
export type State = "saved" | "saving" | "not saved" | "two versions";

export function stateOf<D>(draft: Draft<D>): State {
  if (draft.phase === "stale") return "two versions";
  // A try that has not arrived yet does not save what the tries before it did not.
  if (draft.phase === "retrying" || (draft.phase === "writing" && draft.tries > 0)) return "not saved";
  if (draft.phase === "still" && draft.dirty) return "not saved";
  return draft.phase === "still" ? "saved" : "saving";
}

/** The draft after `event`, and what has to be done now. A change is never lost: it is written, or stays dirty. */
export function next<D>(draft: Draft<D>, event: DraftEvent<D>): Next<D> {
  switch (event.type) {
    case "edit":
      return edited({ ...draft, document: event.change(draft.document), dirty: true });
    case "due":
      return draft.phase === "waiting" || draft.phase === "retrying" || (draft.phase === "still" && draft.dirty) ? write(draft) : [draft];
    case "move":
      return moveTo(draft, event.by);
    case "settle":
      return settled(draft, event.keep);
    case "heard":
      return heard(draft, event.revision);
    case "written":
      return onward({ ...draft, saved: event.saved, sent: undefined, refusal: undefined, tries: 0 });
    case "moved":
      return draft.dirty ? edited({ ...draft, saved: event.saved, phase: "waiting", tries: 0 }) : [opened(event.saved)];
    case "failed":
      return failed(draft, event.refusal);
  }
}

function edited<D>(draft: Draft<D>): Next<D> {
  return draft.phase === "still" || draft.phase === "waiting"
    ? [
        { ...draft, phase: "waiting" },
        { do: "wait", ms: SAVE_AFTER_MS },
      ]
    : [draft];
}

function write<D>(draft: Draft<D>): Next<D> {
  const document = draft.sent ?? draft.document;
  return [
    { ...draft, phase: "writing", sent: document, dirty: document !== draft.document },
    { do: "write", document, madeOn: draft.saved.revision },
  ];
}

function move<D>(draft: Draft<D>, by: Move): Next<D> {
  return [
    { ...draft, phase: "moving", wish: undefined },
    { do: "move", by, madeOn: draft.saved.revision },
  ];
}

/** History is walked from what is saved, so what is not saved yet is written first. */
function moveTo<D>(draft: Draft<D>, by: Move): Next<D> {
  if (draft.phase === "stale" || draft.phase === "moving") return [draft];
  if (draft.phase === "writing") return [{ ...draft, wish: by }];
  return draft.dirty ? write({ ...draft, wish: by }) : move(draft, by);
}

/** After a write: what was changed meanwhile is written next, then what was wished for is done. */
function onward<D>(draft: Draft<D>): Next<D> {
  if (draft.dirty) return write(draft);
  return draft.wish ? move(draft, draft.wish) : [{ ...draft, phase: "still" }];
}

/** Somebody saved a revision: where nothing of ours is under way, it is fetched; else our write finds out. */
function heard<D>(draft: Draft<D>, revision: number): Next<D> {
  if (draft.phase !== "still" || draft.dirty || revision <= draft.saved.revision) return [draft];
  return [{ ...draft, phase: "moving" }, { do: "fetch" }];
}

/** Whether a request may arrive the next time, with nothing in it changed: the server, the disk or the line was not there. */
export const mayPass = (refusal: Refusal) => refusal.status === 0 || refusal.status === 408 || refusal.status >= 500;

function failed<D>(draft: Draft<D>, refusal: Refusal): Next<D> {
  const dirty = draft.phase === "writing" || draft.dirty;
  const kept = { ...draft, wish: undefined, dirty, sent: mayPass(refusal) ? draft.sent : undefined, refusal };
  const other = refusal.answer as unknown as Other<D>;
  if (refusal.status === 409)
    return [{ ...kept, phase: "stale", dirty: true, refusal: undefined, other: { head: other.head, theirs: other.theirs } }];
  if (draft.other) return [{ ...kept, phase: "stale", dirty: true }];
  if (dirty && mayPass(refusal)) {
    const tries = draft.tries + 1;
    return [
      { ...kept, phase: "retrying", tries },
      { do: "wait", ms: retryAfter(tries) },
    ];
  }
  // Refused for what is in it: the change waits for the next edit, which writes both.
  return [{ ...kept, phase: "still" }];
}

/** Both versions stay in the history: mine goes on top of theirs, or beside it. */
function settled<D>(draft: Draft<D>, keep: Keep): Next<D> {
  if (draft.phase !== "stale" || !draft.other) return [draft];
  const { head } = draft.other;
  if (keep === "mine") {
    return write({ ...draft, other: undefined, refusal: undefined, saved: { ...draft.saved, revision: head } });
  }
  const aside: Effect<D> = { do: "aside", document: draft.document, madeOn: draft.saved.revision, newest: head };
  return [{ ...draft, phase: "moving", dirty: false, refusal: undefined }, aside];
}
