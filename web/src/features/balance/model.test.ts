import { describe, expect, it } from "vitest";

import {
  along,
  asked,
  changed,
  frameOf,
  NOTHING_TRIED,
  outline,
  seen,
  toDo,
  tries,
  WEIGHT,
  withAllSet,
  withMark,
  type Gimbal,
  type Item,
  type Mark,
} from "./model";
import type { Rig } from "../../api/client";

const mark = (part: Partial<Mark>) => ({ slide: "plate", from_mm: 0, to_mm: 100, mark_mm: 40, by_mm: null, way: null, ...part }) as Mark;
const rig = (devices: object[]) => ({ id: "r", devices }) as unknown as Rig;
const item = (middle: Item["middle"], size: Item["size"]) => ({ middle, size }) as Item;

describe("what is seen", () => {
  it("has the front to the right from the side, up above, and right to the right from behind", () => {
    const at = { right: 1, forward: 2, up: 3 };
    expect([seen("side", at), seen("back", at), seen("top", at)]).toEqual([
      [2, -3],
      [1, -3],
      [1, -2],
    ]);
    expect([outline("side", at), outline("back", at), outline("top", at)]).toEqual([
      [2, 3],
      [1, 3],
      [1, 2],
    ]);
  });

  it("keeps every outline and the crossing of the axes in sight", () => {
    const lens = item({ right: 0, forward: 200, up: 0 }, { right: 100, forward: 100, up: 80 });
    expect(frameOf([lens], "side", [], 10)).toEqual({ left: -10, top: -50, width: 270, height: 100 });
    expect(frameOf([lens], "side", [{ right: 0, forward: -40, up: 0 }], 10).left).toBe(-50);
  });
});

describe("a scale", () => {
  it("is told by where to set it while nobody has looked, else by a way and how far", () => {
    expect(toDo(mark({}))).toEqual({ big: "40", small: "mm" });
    expect(toDo(mark({ by_mm: -2.5, way: "back" }))).toEqual({ big: "▼ 2.5", small: "mm back" });
    expect(toDo(mark({ by_mm: 0 }))).toEqual({ big: "✓", small: "stays" });
  });

  it("keeps what is read within its travel", () => {
    expect([along(mark({}), -20), along(mark({}), 25), along(mark({}), 400)]).toEqual([0, 0.25, 1]);
  });

  it("is noted where it stands, and forgotten again, the others kept", () => {
    const noted = withMark(rig([{ id: "ring", marks_mm: { pan: 3 } }, { id: "body" }]), "ring", "plate", 45);
    expect(noted.devices[0]!.marks_mm).toEqual({ pan: 3, plate: 45 });
    expect(withMark(noted, "ring", "plate", null).devices[0]!.marks_mm).toEqual({ pan: 3 });
    expect(noted.devices[1]).toEqual({ id: "body" });
  });

  it("is noted at its mark with all the others at once", () => {
    const gimbal = { gimbal: "ring", marks: [mark({}), mark({ slide: "pan", mark_mm: 7 })] } as Gimbal;
    expect(withAllSet(rig([{ id: "ring" }]), gimbal).devices[0]!.marks_mm).toEqual({ plate: 40, pan: 7 });
  });

  it("belongs to one device, and no other is changed", () => {
    const two = rig([{ id: "a" }, { id: "b" }]);
    expect(changed(two, "b", (one) => ({ ...one, mass_g: 5 })).devices).toEqual([{ id: "a" }, { id: "b", mass_g: 5 }]);
  });
});

it("what is tried is asked as it was chosen", () => {
  const gimbal = { gimbal: "ring" } as Gimbal;
  expect(tries(NOTHING_TRIED)).toBe(false);
  expect(tries({ ...NOTHING_TRIED, what: WEIGHT })).toBe(false);
  const swap = { ...NOTHING_TRIED, off: ["lens"], what: "zoom", where: "-lens" };
  expect(asked(gimbal, swap).on).toEqual([expect.objectContaining({ profile: "zoom", instead_of: "lens" })]);
  // The lens stays after all: what was to take its place goes on it.
  expect(asked(gimbal, { ...swap, off: [] }).on).toEqual([expect.objectContaining({ profile: "zoom", on: "lens" })]);
  const weighed = { ...NOTHING_TRIED, what: WEIGHT, mass_g: 300, where: "body" };
  expect(asked(gimbal, weighed).on).toEqual([expect.objectContaining({ profile: null, mass_g: 300, on: "body", side: "top" })]);
});
