import { expect, it } from "vitest";

import type { Choices, Suspect } from "./model";
import { devicesOf, drawn, kindWords, SEEDS, sideBySide, suspectsFor, watch } from "./model";

const SUSPECTS: Suspect[] = [
  { id: "a", says: "A1 is half seated", devices: ["body", "grip"] },
  { id: "b", says: "The grip's battery is flat", devices: ["grip"] },
];

it("names nothing before somebody asks, then by device and words", () => {
  expect(suspectsFor(SUSPECTS, undefined, " ")).toEqual([]);
  expect(suspectsFor(SUSPECTS, "grip", "").map(({ id }) => id)).toEqual(["a", "b"]);
  expect(suspectsFor(SUSPECTS, "body", "").map(({ id }) => id)).toEqual(["a"]);
  expect(suspectsFor(SUSPECTS, undefined, "FLAT battery").map(({ id }) => id)).toEqual(["b"]);
});

it("lists every device about which something can be done, once", () => {
  const sights = [{ device: "phone" }, { device: null }, { device: "body" }];
  expect(devicesOf({ sights, suspects: SUSPECTS } as unknown as Choices)).toEqual(["body", "grip", "phone"]);
});

it("draws seeds that a code has room for, and tells time as a stop watch", () => {
  expect([drawn(0), drawn(0.999999)]).toEqual([0, SEEDS - 1]);
  expect([watch(0), watch(59.6), watch(605)]).toEqual(["0:00", "1:00", "10:05"]);
});

it("puts two ways side by side, whichever is longer", () => {
  expect(sideBySide([1], ["a", "b"])).toEqual([
    [1, "a"],
    [undefined, "b"],
  ]);
  expect(kindWords("joined/wrong-port")).toBe("joined wrong port");
});
