import { expect, it } from "vitest";

import { lacking, partRows, withCount, withOwn, type SmallPart } from "./model";

const KNOWN = { "arm-1-4": "ball arm", strap: "cable strap" };
const SCREW: SmallPart = { name: "brass screw", kind: "screw", size: "1/4-20", length_mm: 7, mass_g: 9 };

it("counts the known ones, and leaves out what there is none of", () => {
  const [arm, strap] = partRows([{ part: "strap", count: 2 }], KNOWN);
  expect([arm?.count, strap?.count]).toEqual([0, 2]);
  expect(withCount([], arm!, 1)).toEqual([{ part: "arm-1-4", count: 1 }]);
  expect(withCount([{ part: "arm-1-4", count: 1 }], arm!, 0)).toEqual([]);
});

it("keeps a part of the crew's own when there is none of it, under a name that is free", () => {
  const once = withOwn([], SCREW, KNOWN);
  const twice = withOwn(once, { ...SCREW, name: "another" }, KNOWN);
  expect(twice.map((one) => one.part)).toEqual(["own-screw", "own-screw-2"]);
  const row = partRows(once, KNOWN).at(-1)!;
  expect(row.name).toBe("brass screw");
  expect(withCount(once, row, 0)).toEqual([{ part: "own-screw", count: 0, made: SCREW }]);
});

it("asks for what it has to know of a part", () => {
  expect(lacking({ kind: "screw" })).toMatch(/called/);
  expect(lacking({ kind: "screw", name: "s" })).toMatch(/size/);
  expect(lacking({ ...SCREW, length_mm: null })).toMatch(/stands out/);
  expect(lacking({ kind: "strap", name: "s", size: "any" })).toMatch(/weighs/);
  expect(lacking(SCREW)).toBeNull();
});
