import { describe, expect, it } from "vitest";

import { Refusal } from "../api/client";
import { next, opened, resumed, retryAfter, SAVE_AFTER_MS, stateOf, type Draft, type DraftEvent, type Effect, type Saved } from "./draft";

type Doc = { id: string; name: string };
type Event = DraftEvent<Doc>;

const saved = (name: string, revision: number): Saved<Doc> => ({
  document: { id: "r", name },
  revision,
  made_at: "",
  can_undo: true,
  can_redo: false,
});
const named = (name: string): Event => ({ type: "edit", change: (rig) => ({ ...rig, name }) });
const refusal = (status: number, more = {}) =>
  new Refusal(status, { code: "x", message: "No.", path: "", hint: "", problems: [], ...more } as never);

/** The draft after several events, and all that had to be done on the way. */
function after(...events: Event[]): [Draft<Doc>, Effect<Doc>[]] {
  let draft = opened(saved("first", 1));
  const done: Effect<Doc>[] = [];
  for (const event of events) {
    const [now, effect] = next(draft, event);
    draft = now;
    if (effect) done.push(effect);
  }
  return [draft, done];
}

const due: Event = { type: "due" };
const undo: Event = { type: "move", by: "undo" };
const written = (name: string, revision: number): Event => ({ type: "written", saved: saved(name, revision) });
const failed = (status: number, more = {}): Event => ({ type: "failed", refusal: refusal(status, more) });

describe("a draft", () => {
  it("is still when it is opened", () => expect(opened(saved("first", 1)).phase).toBe("still"));

  it("waits a moment after each change, then writes them all at once", () => {
    const [draft, done] = after(named("a"), named("ab"), due);
    expect(done).toEqual([
      { do: "wait", ms: SAVE_AFTER_MS },
      { do: "wait", ms: SAVE_AFTER_MS },
      { do: "write", document: { id: "r", name: "ab" }, madeOn: 1 },
    ]);
    expect([draft.phase, draft.dirty, draft.document.name]).toEqual(["writing", false, "ab"]);
  });

  it("is still once it is written, on the new revision", () => {
    const [draft] = after(named("a"), due, written("a", 2));
    expect([draft.phase, draft.dirty, draft.saved.revision]).toEqual(["still", false, 2]);
  });

  it("writes again what was changed while a write was under way, one write at a time", () => {
    const [draft, done] = after(named("a"), due, named("b"), due, written("a", 2));
    expect(done.filter((one) => one.do === "write").map((one) => one.do === "write" && [one.document.name, one.madeOn])).toEqual([
      ["a", 1],
      ["b", 2],
    ]);
    expect(draft.document.name).toBe("b");
  });

  it("has nothing to do when a timer comes late", () => expect(after(due)[1]).toEqual([]));
});

describe("what is said of a draft", () => {
  it("stays “not saved” while it is tried again, until a try arrives", () => {
    const said = [[named("a"), due], [failed(0)], [due], [failed(0), due], [written("a", 2)]].map((_, until, all) =>
      stateOf(after(...all.slice(0, until + 1).flat())[0]),
    );
    expect(said).toEqual(["saving", "not saved", "not saved", "not saved", "saved"]);
  });
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
    expect([draft.document.name, draft.phase]).toEqual(["older", "still"]);
  });

  it("does not throw away what was typed meanwhile", () => {
    const [draft, done] = after(undo, named("typed"), { type: "moved", saved: saved("older", 2) });
    expect([draft.document.name, draft.dirty, done.at(-1)]).toEqual(["typed", true, { do: "wait", ms: SAVE_AFTER_MS }]);
  });

  it("is not asked for twice at a time", () => expect(after(undo, undo)[1]).toHaveLength(1));
});

describe("a write that is refused for what is in it", () => {
  it("keeps the change, says why, and is tried again with the next change", () => {
    const [draft] = after(named("a"), due, failed(422));
    expect([draft.phase, draft.dirty, draft.document.name, draft.refusal?.status, stateOf(draft)]).toEqual([
      "still",
      true,
      "a",
      422,
      "not saved",
    ]);
    const [, effect] = next(next(draft, named("ab"))[0], due);
    expect(effect).toEqual({ do: "write", document: { id: "r", name: "ab" }, madeOn: 1 });
  });

  it("says no more once a later one went through", () => {
    const [draft] = after(named("a"), due, failed(422), named("b"), due, written("b", 2));
    expect([draft.refusal, stateOf(draft)]).toEqual([undefined, "saved"]);
  });

  it("forgets what was wished for after it", () => {
    const [draft] = after(named("a"), undo, failed(422));
    expect(draft.wish).toBeUndefined();
  });
});

describe.each([0, 408, 500, 503, 507])("a write that does not arrive (%i)", (status) => {
  it("is tried again by itself, later each time, and says that it is not saved", () => {
    const [draft, done] = after(named("a"), due, failed(status), due, failed(status), due, failed(status));
    expect(done.filter((one) => one.do === "wait").map((one) => one.do === "wait" && one.ms)).toEqual([SAVE_AFTER_MS, 1000, 2000, 4000]);
    expect([draft.phase, draft.dirty, draft.document.name, stateOf(draft)]).toEqual(["retrying", true, "a", "not saved"]);
    expect(retryAfter(50)).toBe(15_000);
  });

  it("is sent again as it was, for it may stand there already, and then what was changed meanwhile", () => {
    const [draft, done] = after(named("a"), due, failed(status), named("b"), due);
    expect(done.at(-1)).toEqual({ do: "write", document: { id: "r", name: "a" }, madeOn: 1 });
    const [further, effect] = next(draft, written("a", 2));
    expect(effect).toEqual({ do: "write", document: { id: "r", name: "b" }, madeOn: 2 });
    const [now] = next(further, written("b", 3));
    expect([stateOf(now), now.tries, now.sent]).toEqual(["saved", 0, undefined]);
  });

  it("is met as somebody else's only when it is", () => {
    const theirs = { head: 2, theirs: { id: "r", name: "theirs" } };
    const [draft] = after(named("a"), due, failed(status), named("b"), due, failed(409, theirs));
    expect([stateOf(draft), draft.document.name, draft.other?.head]).toEqual(["two versions", "b", 2]);
    expect(next(draft, { type: "settle", keep: "mine" })[1]).toEqual({ do: "write", document: { id: "r", name: "b" }, madeOn: 2 });
  });
});

describe("a draft that was left unsaved", () => {
  it("is written as soon as it is opened again", () => {
    const [draft, effect] = resumed(saved("first", 3), { id: "r", name: "mine" }, 3);
    expect([draft.document.name, effect, stateOf(draft)]).toEqual(["mine", { do: "wait", ms: 0 }, "saving"]);
    expect(next(draft, due)[1]).toEqual({ do: "write", document: { id: "r", name: "mine" }, madeOn: 3 });
  });

  it("asks the database first where its last write had no answer", () => {
    const [draft, effect] = resumed(saved("sent", 4), { id: "r", name: "mine" }, 3, { id: "r", name: "sent" });
    expect([stateOf(draft), effect]).toEqual(["saving", { do: "wait", ms: 0 }]);
    const [writing, first] = next(draft, due);
    expect(first).toEqual({ do: "write", document: { id: "r", name: "sent" }, madeOn: 3 });
    expect(next(writing, written("sent", 4))[1]).toEqual({ do: "write", document: { id: "r", name: "mine" }, madeOn: 4 });
  });

  it("is settled first where somebody else wrote meanwhile", () => {
    const [draft, effect] = resumed(saved("theirs", 4), { id: "r", name: "mine" }, 3);
    expect([stateOf(draft), effect, draft.other]).toEqual(["two versions", undefined, { head: 4, theirs: { id: "r", name: "theirs" } }]);
    expect(next(draft, { type: "settle", keep: "mine" })[1]).toEqual({ do: "write", document: { id: "r", name: "mine" }, madeOn: 4 });
    expect(next(draft, { type: "settle", keep: "theirs" })[1]).toEqual({
      do: "aside",
      document: { id: "r", name: "mine" },
      madeOn: 3,
      newest: 4,
    });
  });
});

describe("somebody else's change", () => {
  const stale = failed(409, { head: 7, theirs: { id: "r", name: "theirs" } });

  it("arrives by itself where nothing of mine is under way", () => {
    const [draft, done] = after({ type: "heard", revision: 2 });
    expect([draft.phase, done]).toEqual(["moving", [{ do: "fetch" }]]);
    expect(next(draft, { type: "moved", saved: saved("theirs", 2) })[0].document.name).toBe("theirs");
  });

  it("is no news when it is my own", () => {
    expect(after({ type: "heard", revision: 1 })[1]).toEqual([]);
    expect(after(named("a"), due, { type: "heard", revision: 2 })[1]).toHaveLength(2);
  });

  it("stops all writing until it is settled", () => {
    const [draft, done] = after(named("a"), due, stale, named("b"), due, undo);
    expect([draft.phase, draft.dirty, draft.document.name, stateOf(draft)]).toEqual(["stale", true, "b", "two versions"]);
    expect(done.filter((one) => one.do !== "wait")).toHaveLength(1);
  });

  it("goes below mine when mine is to stand", () => {
    const [, done] = after(named("a"), due, stale, { type: "settle", keep: "mine" });
    expect(done.at(-1)).toEqual({ do: "write", document: { id: "r", name: "a" }, madeOn: 7 });
  });

  it("goes above mine when theirs is to stand: both are kept", () => {
    const [draft, done] = after(named("a"), due, stale, { type: "settle", keep: "theirs" }, { type: "moved", saved: saved("theirs", 9) });
    expect(done.at(-1)).toEqual({ do: "aside", document: { id: "r", name: "a" }, madeOn: 1, newest: 7 });
    expect([draft.document.name, draft.phase, draft.dirty, draft.other]).toEqual(["theirs", "still", false, undefined]);
  });

  it("stays to be settled when settling does not arrive, or somebody wrote again", () => {
    const [cut] = after(named("a"), due, stale, { type: "settle", keep: "theirs" }, failed(0));
    expect([stateOf(cut), cut.document.name, cut.refusal?.status]).toEqual(["two versions", "a", 0]);
    const [again] = after(
      named("a"),
      due,
      stale,
      { type: "settle", keep: "mine" },
      failed(409, { head: 8, theirs: { id: "r", name: "third" } }),
    );
    expect([stateOf(again), again.other?.head, again.document.name]).toEqual(["two versions", 8, "a"]);
  });

  it("cannot be settled when there is none", () => expect(after({ type: "settle", keep: "mine" })[1]).toEqual([]));
});
