import { expect, it } from "vitest";

import { ofAct, ofFunction, ofKind, PICTOGRAMS } from "./pictograms";

it("draws every one within its square, each unlike all others", () => {
  const drawings = Object.values(PICTOGRAMS);
  expect(new Set(drawings).size).toBe(drawings.length);
  for (const drawing of drawings) {
    for (const [, x, y] of drawing.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)) {
      expect(Number(x)).toBeGreaterThanOrEqual(0);
      expect(Number(x)).toBeLessThanOrEqual(24);
      expect(Number(y)).toBeGreaterThanOrEqual(0);
      expect(Number(y)).toBeLessThanOrEqual(24);
    }
  }
});

it("has one for whatever it does not know", () => {
  expect(ofFunction("somebodys-own")).toBe("other");
  expect(ofKind("somebodys-own")).toBe("module");
  expect(ofAct("somebodys-own")).toBe("other");
});

it("tells teeth that mesh from a plug", () => {
  expect(ofAct("plug")).toBe("plug");
  expect(ofAct("plug", true)).toBe("mesh");
});
