import { describe, expect, it } from "vitest";

import type { Alternative, Figures, Rig } from "../../api/client";
import { isBest, newWays, ROWS, withWays } from "./model";

const figures = (cables: number) => ({ cables }) as Figures;
const other = (over: Record<string, string[]>) => ({ over }) as unknown as Alternative;

describe("which figure is the best", () => {
  const row = ROWS[0]!;
  it("is the least", () => expect(isBest(row, figures(2), [figures(2), figures(3)])).toBe(true));
  it("is none when all are alike", () => expect(isBest(row, figures(2), [figures(2), figures(2)])).toBe(false));
});

it("adopts only the ways that are new", () => {
  const first = other({ roll: ["a--b"], picture: ["a--c"] });
  expect(newWays(first, other({ roll: ["a--b"], picture: ["a--d", "d--c"] }))).toEqual({ picture: ["a--d", "d--c"] });
});

it("pins a way in the place of the old one and leaves other pins", () => {
  const rig = {
    pins: [
      { kind: "way", promise: "picture", over: ["x--y"] },
      { kind: "off", device: "phone" },
    ],
  } as unknown as Rig;
  expect(withWays(rig, { picture: ["a--b"], own: [] }).pins).toEqual([
    { kind: "off", device: "phone" },
    { kind: "way", promise: "picture", over: ["a--b"] },
  ]);
});
