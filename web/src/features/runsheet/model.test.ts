import { expect, it } from "vitest";

import type { Step } from "../../api/client";
import { byStage, cardsOf, isDone, nextOpen, spoken } from "./model";

const step = (id: string, stage: string, card = "") => ({ id, stage, card, title: id }) as Step;
const steps = [step("a", "gather", "bag"), step("b", "gather", "bag"), step("c", "wake"), step("d", "gather", "bag")];
const cards = cardsOf(steps);

it("puts steps of one kind that follow each other on one card", () =>
  expect(cards.map((card) => [card.title, card.steps.length])).toEqual([["bag", 2], ["c", 1], ["d", 1]]));

it("keeps the order when it groups by stage", () =>
  expect(byStage(cards).map((run) => [run.stage, run.cards.length])).toEqual([["gather", 1], ["wake", 1], ["gather", 1]]));

it("opens at the first card with a line that is not ticked, or the last", () => {
  expect(nextOpen(cards, { a: "x" })).toBe(0);
  expect(nextOpen(cards, { a: "x", b: "x" })).toBe(1);
  expect(nextOpen(cards, { a: "x", b: "x", c: "x", d: "x" })).toBe(2);
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
