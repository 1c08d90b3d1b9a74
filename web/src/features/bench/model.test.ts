import { expect, it } from "vitest";

import type { Run } from "../../api/client";
import { clock, frameMs, looksAt } from "./model";

const look = (device: string, state: string) => ({ device, state, lamps: [], screens: [], plugged: [] });
const run = {
  start: [look("body", "off"), look("grip", "off")],
  frames: [{ changed: [look("grip", "awake")] }, { changed: [look("body", "awake")], proof: {} }],
} as unknown as Run;

it("shows each device as it looked last", () => {
  expect(looksAt(run, 0).map((one) => one.state)).toEqual(["off", "off"]);
  expect(looksAt(run, 1).map((one) => one.state)).toEqual(["off", "awake"]);
  expect(looksAt(run, 2).map((one) => one.state)).toEqual(["awake", "awake"]);
});

it("stays longer on a proof and less long at speed", () => {
  expect(frameMs(run, 1, 1)).toBeGreaterThan(frameMs(run, 0, 1));
  expect(frameMs(run, 0, 16)).toBeLessThan(frameMs(run, 0, 4));
});

it("writes the clock", () => expect(clock(605.4)).toBe("10:05"));
