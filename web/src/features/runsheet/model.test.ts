import { expect, it } from "vitest";

import type { Step } from "../../api/client";
import { byStage, nextOpen, spoken } from "./model";

const step = (id: string, stage: string) => ({ id, stage }) as Step;
const steps = [step("a", "gather"), step("b", "gather"), step("c", "wake"), step("d", "gather")];

it("keeps the order when it groups by stage", () =>
  expect(byStage(steps).map((run) => [run.stage, run.steps.length])).toEqual([["gather", 2], ["wake", 1], ["gather", 1]]));

it("opens at the first step that is not ticked, or the last", () => {
  expect(nextOpen(steps, { a: "x" })).toBe(1);
  expect(nextOpen(steps, { a: "x", b: "x", c: "x", d: "x" })).toBe(3);
  expect(nextOpen([], {})).toBe(0);
});

it("says times as people do", () => {
  expect(spoken(45)).toBe("45 s");
  expect(spoken(240)).toBe("4 min");
});
