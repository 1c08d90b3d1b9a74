import { expect, it } from "vitest";

import type { Step } from "../../api/client";
import { byStage, cardsOf, countOf, didIt, heard, isDone, nextOpen, spoken, standingOf } from "./model";

const step = (id: string, stage: string, card = "") => ({ id, stage, card, title: id }) as Step;
const steps = [step("a", "gather", "bag"), step("b", "gather", "bag"), step("c", "wake"), step("d", "gather", "bag")];
const cards = cardsOf(steps);

it("puts steps of one kind that follow each other on one card", () =>
  expect(cards.map((card) => [card.title, card.steps.length])).toEqual([
    ["bag", 2],
    ["c", 1],
    ["d", 1],
  ]));

it("keeps the order when it groups by stage", () =>
  expect(byStage(cards).map((run) => [run.stage, run.cards.length])).toEqual([
    ["gather", 1],
    ["wake", 1],
    ["gather", 1],
  ]));

const said = (...done: string[]) => Object.fromEntries(done.map((id) => [id, { what: "done" }]));

it("stands as its worst line does", () => {
  expect(standingOf(cards[0]!, {})).toBe("open");
  expect(standingOf(cards[0]!, said("a", "b"))).toBe("done");
  expect(standingOf(cards[0]!, { ...said("a"), b: { what: "skipped" } })).toBe("skipped");
  expect(standingOf(cards[0]!, { ...said("a"), b: { what: "differs" } })).toBe("differs");
});

it("counts what was done, what was skipped and what is amiss", () => {
  expect(countOf(steps, {})).toBe("0 of 4 done");
  expect(countOf(steps, { ...said("a", "b"), c: { what: "skipped" }, d: { what: "differs" } })).toBe("2 of 4 done, 1 skipped, 1 amiss");
});

it("reads out what others said since, and not what I said", () => {
  const mark = (person: string, what = "done", at = "14:03") => ({ person, what, at });
  expect(heard({}, { a: mark("Ada"), b: mark("Me") }, steps, "Me")).toBe("Ada: a, done.");
  expect(heard({ a: mark("Ada") }, { a: mark("Ada") }, steps, "Me")).toBe("");
  expect(heard({ a: mark("Ada") }, { a: mark("", "differs", "14:05") }, steps, "Me")).toBe("Somebody: a, does not look like that.");
  expect(heard({ a: mark("Ada") }, {}, steps, "Me")).toBe("");
});

it("says who did a step, and when", () => {
  expect(didIt({ person: "Ada", at: "2026-05-04T14:03:00Z" }, () => "14:03")).toBe("Ada, 14:03");
  expect(didIt({ person: "", at: "2026-05-04T14:03:00Z" }, () => "14:03")).toBe("14:03");
});

it("opens at the first card with something to do, or the last", () => {
  expect(nextOpen(cards, said("a"))).toBe(0);
  expect(nextOpen(cards, said("a", "b"))).toBe(1);
  expect(nextOpen(cards, { ...said("a"), b: { what: "skipped" } })).toBe(1);
  expect(nextOpen(cards, { ...said("a"), b: { what: "differs" } })).toBe(0);
  expect(nextOpen(cards, said("a", "b", "c", "d"))).toBe(2);
  expect(nextOpen([], {})).toBe(0);
});

it("has a card done once every line of it is", () => {
  expect(isDone(cards[0]!, { a: "x" })).toBe(false);
  expect(isDone(cards[0]!, { a: "x", b: "x" })).toBe(true);
});

it("says times as people do", () => {
  expect(spoken(45)).toBe("45 s");
  expect(spoken(240)).toBe("4 min");
});
