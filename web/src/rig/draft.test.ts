import { describe, expect, it } from "vitest";

import { Refusal, type Rig, type Saved } from "../api/client";
import { next, opened, type Draft, type DraftEvent, type Effect } from "./draft";

const saved = (name: string, revision: number) =>
  ({ document: { id: "r", name } as Rig, revision, can_undo: true, can_redo: false }) as Saved;
const named = (name: string): DraftEvent => ({ type: "edit", change: (rig) => ({ ...rig, name }) });
const refusal = (status: number, more = {}) =>
  new Refusal(status, { code: "x", message: "No.", path: "", hint: "", problems: [], ...more } as never);

/** The draft after several events, and all that had to be done on the way. */
function after(...events: DraftEvent[]): [Draft, Effect[]] {
  let draft = opened(saved("first", 1));
  const done: Effect[] = [];
  for (const event of events) {
    const [now, effect] = next(draft, event);
    draft = now;
    if (effect) done.push(effect);
  }
  return [draft, done];
}

const due: DraftEvent = { type: "due" };
const undo: DraftEvent = { type: "move", by: "undo" };
const written = (name: string, revision: number): DraftEvent => ({ type: "written", saved: saved(name, revision) });
const failed = (status: number, more = {}): DraftEvent => ({ type: "failed", refusal: refusal(status, more) });

describe("a draft", () => {
  it("is still when it is opened", () => expect(opened(saved("first", 1)).phase).toBe("still"));

  it("waits a moment after each change, then writes them all at once", () => {
    const [draft, done] = after(named("a"), named("ab"), due);
    expect(done).toEqual([{ do: "wait" }, { do: "wait" }, { do: "write", rig: { id: "r", name: "ab" }, madeOn: 1 }]);
    expect([draft.phase, draft.dirty, draft.rig.name]).toEqual(["writing", false, "ab"]);
  });

  it("is still once it is written, on the new revision", () => {
    const [draft] = after(named("a"), due, written("a", 2));
    expect([draft.phase, draft.dirty, draft.saved.revision]).toEqual(["still", false, 2]);
  });

  it("writes again what was changed while a write was under way, one write at a time", () => {
    const [draft, done] = after(named("a"), due, named("b"), due, written("a", 2));
    expect(done.filter((one) => one.do === "write").map((one) => one.do === "write" && [one.rig.name, one.madeOn])).toEqual([
      ["a", 1],
      ["b", 2],
    ]);
    expect(draft.rig.name).toBe("b");
  });

  it("has nothing to do when a timer comes late", () => expect(after(due)[1]).toEqual([]));
});

describe("undo", () => {
  it("goes at once when all is written", () => expect(after(undo)[1]).toEqual([{ do: "move", by: "undo", madeOn: 1 }]));

  it("waits for what is not written yet", () => {
    const [draft, done] = after(named("a"), undo, written("a", 2));
    expect(done.map((one) => one.do)).toEqual(["wait", "write", "move"]);
    expect(done.at(-1)).toEqual({ do: "move", by: "undo", madeOn: 2 });
    expect(draft.phase).toBe("moving");
  });

  it("waits for a write that is under way, and for the change after it", () => {
    const [, done] = after(named("a"), due, named("b"), undo, written("a", 2), written("b", 3));
    expect(done.map((one) => one.do)).toEqual(["wait", "write", "write", "move"]);
  });

  it("brings the older document onto the screen", () => {
    const [draft] = after(undo, { type: "moved", saved: saved("older", 2) });
    expect([draft.rig.name, draft.phase]).toEqual(["older", "still"]);
  });

  it("does not throw away what was typed meanwhile", () => {
    const [draft, done] = after(undo, named("typed"), { type: "moved", saved: saved("older", 2) });
    expect([draft.rig.name, draft.dirty, done.at(-1)]).toEqual(["typed", true, { do: "wait" }]);
  });

  it("is not asked for twice at a time", () => expect(after(undo, undo)[1]).toHaveLength(1));
});

describe("a write that fails", () => {
  it("keeps the change, says why, and is tried again with the next change", () => {
    const [draft] = after(named("a"), due, failed(422));
    expect([draft.phase, draft.dirty, draft.rig.name, draft.refusal?.status]).toEqual(["still", true, "a", 422]);
    const [, effect] = next(next(draft, named("ab"))[0], due);
    expect(effect).toEqual({ do: "write", rig: { id: "r", name: "ab" }, madeOn: 1 });
  });

  it("says no more once a later one went through", () => {
    const [draft] = after(named("a"), due, failed(422), named("b"), due, written("b", 2));
    expect(draft.refusal).toBeUndefined();
  });

  it("forgets what was wished for after it", () => {
    const [draft] = after(named("a"), undo, failed(422));
    expect(draft.wish).toBeUndefined();
  });
});

describe("somebody else's change", () => {
  const stale = failed(409, { head: 7, theirs: {} });

  it("stops all writing until it is settled", () => {
    const [draft, done] = after(named("a"), due, stale, named("b"), due, undo);
    expect([draft.phase, draft.dirty, draft.rig.name]).toEqual(["stale", true, "b"]);
    expect(done.filter((one) => one.do !== "wait")).toHaveLength(1);
  });

  it("is overwritten on its own revision when mine is kept", () => {
    const [, done] = after(named("a"), due, stale, { type: "settle", keep: "mine" });
    expect(done.at(-1)).toEqual({ do: "write", rig: { id: "r", name: "a" }, madeOn: 7 });
  });

  it("takes the place of mine when theirs is taken", () => {
    const [draft, done] = after(
      named("a"), due, stale, { type: "settle", keep: "theirs" }, { type: "moved", saved: saved("theirs", 7) },
    );
    expect(done.at(-1)).toEqual({ do: "fetch" });
    expect([draft.rig.name, draft.phase, draft.dirty]).toEqual(["theirs", "still", false]);
  });

  it("cannot be settled when there is none", () => expect(after({ type: "settle", keep: "mine" })[1]).toEqual([]));
});
