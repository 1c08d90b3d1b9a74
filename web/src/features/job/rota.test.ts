import { describe, expect, it } from "vitest";

import { bare, type JobDay } from "./model";
import { byClock, lastSaid, longer, powered, saidOf, type Rota, type RotaAct } from "./rota";

const act = (at_min: number, says: string): RotaAct => ({
  at_min,
  clock: `${at_min}`,
  kind: "change",
  says,
  where: "",
  rig: "a",
  device: "battery",
  camera: "A",
  pack: says,
  takes_min: 0,
  spoils: false,
  changed: false,
});

const block = (name: string, begins: string, ends: string) => ({ name, begins, ends, rigs: [], pauses: [] });

const day: JobDay = {
  ...bare("2026-05-04"),
  call: "18:00",
  wrap: "02:00",
  meals: [{ begins: "23:00", ends: "23:45" }],
  blocks: [block("One", "19:00", "20:30"), { ...block("Two", "20:30", "23:00"), pauses: [{ begins: "21:40", ends: "21:55" }] }],
};

describe("the rota", () => {
  it("is told by the time of day", () => {
    expect(byClock([act(30, "b"), act(10, "a"), act(30, "c")]).map((one) => [one.at, one.acts.length])).toEqual([
      [10, 1],
      [30, 2],
    ]);
  });

  it("has mains when it is not without", () => {
    const rota = { lasts_min: 600, mains: [{ begins_min: 150, ends_min: 195 }] } as unknown as Rota;
    expect(powered(rota)).toEqual([
      { begins: 0, ends: 150 },
      { begins: 195, ends: 600 },
    ]);
  });
});

describe("a day while it runs", () => {
  it("moves all that comes after a block that goes on, and the wrap with it", () => {
    const later = { ...day, ...longer(day, day.blocks![0]!, 15) };
    expect(later.blocks!.map((one) => [one.begins, one.ends])).toEqual([
      ["19:00", "20:45"],
      ["20:45", "23:15"],
    ]);
    expect(later.blocks![1]!.pauses![0]).toEqual({ begins: "21:55", ends: "22:10" });
    expect(later.meals![0]).toEqual({ begins: "23:15", ends: "00:00" });
    expect(later.wrap).toBe("02:15");
  });

  it("remembers what was said last, over midnight too", () => {
    const changed = { kind: "changed", at: "00:10", rig: "a", device: "battery", pack: "x" } as const;
    const said: JobDay = { ...day, happened: [changed, { kind: "read", at: "23:50", rig: "a", device: "battery", volts: 14 }] };
    expect(lastSaid(said)).toBe("00:10");
    expect(saidOf(said, { ...act(370, "x"), pack: "x" })).toEqual(changed);
    expect(saidOf(said, { ...act(370, "y"), pack: "y" })).toBeUndefined();
    expect(lastSaid(day)).toBeUndefined();
  });
});
