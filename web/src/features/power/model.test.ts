import { describe, expect, it } from "vitest";

import { hours, laidOut, thickness, ticks, volts, withEnergy, type Tree } from "./model";

const device = (id: string, giver?: string) => ({ device: id, name: id, draws_w: 1, giver, join: giver && `${giver}--${id}`, at: {} });
const tree = {
  devices: [device("pack"), device("body", "pack"), device("driver", "pack"), device("m1", "driver"), device("m2", "m1")],
  leads: [{ join: "pack--body" }, { join: "pack--driver" }, { join: "driver--m1" }, { join: "m1--m2" }],
} as unknown as Tree;

describe("the tree of a battery", () => {
  it("puts the longest chain into the first row, and everything right of what feeds it", () => {
    const placed = laidOut(tree, "pack");
    expect(placed.map((one) => [one.device.device, one.column, one.row])).toEqual([
      ["pack", 0, 0],
      ["driver", 1, 0],
      ["m1", 2, 0],
      ["m2", 3, 0],
      ["body", 1, 1],
    ]);
    expect(placed.find((one) => one.device.device === "m2")?.from?.device.device).toBe("m1");
    expect(placed.find((one) => one.device.device === "m2")?.lead?.join).toBe("m1--m2");
  });

  it("is empty for what is not there", () => expect(laidOut(tree, "nobody")).toEqual([]));
});

describe("figures", () => {
  it("says volts as a meter does, and nothing where nobody knows", () => {
    expect([volts(14.19), volts(4.923), volts(null)]).toEqual(["14.2 V", "4.92 V", ""]);
  });

  it("says hours, and minutes below one", () => {
    expect([hours(1.376), hours(0.5), hours(null)]).toEqual(["1.4 h", "30 min", "–"]);
  });

  it("draws more watts thicker", () => {
    expect(thickness(0, 60)).toBe(2);
    expect(thickness(60, 60)).toBe(16);
    expect(thickness(30, 60)).toBe(9);
  });

  it("puts few round numbers on an axis", () => {
    expect(ticks(0, 1.4)).toEqual([0, 0.5, 1]);
    expect(ticks(12.9, 16.5)).toEqual([13, 14, 15, 16]);
  });

  it("changes one thing of what is reckoned with", () => {
    const rig = { energy: { temperature_c: 20, margin_v: 0 } } as never;
    expect(withEnergy(rig, { temperature_c: -5 }).energy).toEqual({ temperature_c: -5, margin_v: 0 });
  });
});
