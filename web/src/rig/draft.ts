import { Refusal, type Rig, type Saved, type StaleAnswer } from "../api/client";

/** So long after the last change the draft is saved: quick enough to be forgotten, slow enough for one word of typing. */
export const SAVE_AFTER_MS = 350;

/**
 * Where a draft is between the screen and the database.
 *
 * still: nothing is under way. waiting: changed, to be written soon. writing: a write is under way. moving: an undo, a
 * redo or a fetch is under way. stale: somebody else wrote first; nothing is written until that is settled.
 */
export type Phase = "still" | "waiting" | "writing" | "moving" | "stale";

export type Draft = {
  rig: Rig;
  saved: Saved;
  phase: Phase;
  /** There are changes that no write has taken up yet. */
  dirty: boolean;
  /** What is to be done once all is written. */
  wish?: Move;
  refusal?: Refusal;
  stale?: StaleAnswer;
};

export type Move = "undo" | "redo";

export type DraftEvent =
  | { type: "edit"; change: (rig: Rig) => Rig }
  | { type: "due" }
  | { type: "move"; by: Move }
  | { type: "settle"; keep: "mine" | "theirs" }
  | { type: "written"; saved: Saved }
  | { type: "moved"; saved: Saved }
  | { type: "failed"; refusal: Refusal };

/** What has to be done outside: wait a moment, write, move in the history, fetch what the others made. */
export type Effect =
  | { do: "wait" }
  | { do: "write"; rig: Rig; madeOn: number }
  | { do: "move"; by: Move; madeOn: number }
  | { do: "fetch" };

type Next = [Draft, Effect?];

export const opened = (saved: Saved): Draft => ({ rig: saved.document, saved, phase: "still", dirty: false });

/** The draft after `event`, and what has to be done now. A change is never lost: it is written, or stays dirty. */
export function next(draft: Draft, event: DraftEvent): Next {
  switch (event.type) {
    case "edit":
      return edited({ ...draft, rig: event.change(draft.rig), dirty: true });
    case "due":
      return draft.phase === "waiting" ? write(draft) : [draft];
    case "move":
      return moveTo(draft, event.by);
    case "settle":
      return settled(draft, event.keep);
    case "written":
      return onward({ ...draft, saved: event.saved, refusal: undefined });
    case "moved":
      return draft.dirty
        ? edited({ ...draft, saved: event.saved, phase: "waiting" })
        : [{ rig: event.saved.document, saved: event.saved, phase: "still", dirty: false }];
    case "failed":
      return [failed(draft, event.refusal)];
  }
}

function edited(draft: Draft): Next {
  return draft.phase === "still" || draft.phase === "waiting" ? [{ ...draft, phase: "waiting" }, { do: "wait" }] : [draft];
}

function write(draft: Draft): Next {
  return [{ ...draft, phase: "writing", dirty: false }, { do: "write", rig: draft.rig, madeOn: draft.saved.revision }];
}

function move(draft: Draft, by: Move): Next {
  return [{ ...draft, phase: "moving", wish: undefined }, { do: "move", by, madeOn: draft.saved.revision }];
}

/** History is walked from what is saved, so what is not saved yet is written first. */
function moveTo(draft: Draft, by: Move): Next {
  if (draft.phase === "stale" || draft.phase === "moving") return [draft];
  if (draft.phase === "writing") return [{ ...draft, wish: by }];
  return draft.dirty ? write({ ...draft, wish: by }) : move(draft, by);
}

/** After a write: what was changed meanwhile is written next, then what was wished for is done. */
function onward(draft: Draft): Next {
  if (draft.dirty) return write(draft);
  return draft.wish ? move(draft, draft.wish) : [{ ...draft, phase: "still" }];
}

function failed(draft: Draft, refusal: Refusal): Draft {
  const lost = draft.phase === "writing" || draft.dirty;
  const kept = { ...draft, wish: undefined, dirty: lost };
  if (refusal.status === 409) return { ...kept, phase: "stale", stale: refusal.answer as StaleAnswer };
  // The change waits for the next edit, which writes both.
  return { ...kept, phase: "still", refusal };
}

function settled(draft: Draft, keep: "mine" | "theirs"): Next {
  if (!draft.stale) return [draft];
  const head = { ...draft.saved, revision: draft.stale.head };
  const free = { ...draft, stale: undefined, saved: head };
  return keep === "mine" ? write(free) : [{ ...free, phase: "moving", dirty: false }, { do: "fetch" }];
}
