import { expect, it, vi } from "vitest";

import type { Step } from "../../api/client";
import { tellOver, waitsOf } from "./waits";

const step = (id: string, waits_s: number) => ({ id, title: id, waits_s }) as Step;
const at = (ms: number) => new Date(ms).toISOString();

it("counts what goes on by itself after a tick, the first to be over first", () => {
  const steps = [step("body", 30), step("link", 10), step("plug", 0), step("later", 60)];
  const ticks = { body: at(100_000), link: at(101_000), plug: at(100_000) };
  expect(waitsOf(steps, ticks, 105_000).map((one) => [one.step, one.until])).toEqual([
    ["link", 111_000],
    ["body", 130_000],
  ]);
  expect(waitsOf(steps, ticks, 115_000).map(({ step: id }) => id)).toEqual(["body"]);
  expect(waitsOf(steps, {}, 0)).toEqual([]);
});

it("shakes a phone where it can, and does without a sound where there is none", () => {
  const vibrate = vi.fn();
  vi.stubGlobal("navigator", { vibrate });
  expect(tellOver).not.toThrow();
  expect(vibrate).toHaveBeenCalledTimes(1);
});
