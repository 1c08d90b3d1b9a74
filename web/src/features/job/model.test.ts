import { describe, expect, it } from "vitest";

import {
  bare,
  begun,
  clock,
  minutesFrom,
  timeOf,
  unwritten,
  withDay,
  withNextBlock,
  withNextDay,
  withPlace,
  withUse,
  freeName,
  type Job,
} from "./model";

const rig = (id: string, production: string | null, days: string[] = []) => ({ document: { id, production, days, camera: "A" } }) as never;

describe("the times of a day", () => {
  it("counts from the call into the next morning", () => {
    expect(minutesFrom("18:00", "03:20")).toBe(560);
    expect(clock("18:00", 560)).toBe("03:20");
  });
});

describe("a typed time", () => {
  it("is taken as a call sheet has it", () => {
    expect(["1830", "18:30", "7.05", "24:00", "18", "1860"].map(timeOf)).toEqual([
      "18:30",
      "18:30",
      "07:05",
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("the places of a job", () => {
  const block = { name: "Dock", begins: "18:00", ends: "19:00", place: "Quay", rigs: [], pauses: [] };
  const job: Job = {
    ...begun("Ferry"),
    places: [{ name: "Quay" }, { name: "Ramp", mains: true }],
    days: [{ ...bare("2026-05-31"), place: "Ramp", blocks: [block] }],
  };
  const where = (one: Job) => [one.days![0]!.place, one.days![0]!.blocks![0]!.place];

  it("keep their days and blocks when they are called otherwise", () => {
    expect(where(withPlace(job, 0, { name: "Pier" }))).toEqual(["Ramp", "Pier"]);
    expect(withPlace(job, 0, { name: "Pier" }).places!.map((one) => one.name)).toEqual(["Pier", "Ramp"]);
  });

  it("leave no day at a place that is gone", () => {
    expect(where(withPlace(job, 1, undefined))).toEqual([null, "Quay"]);
  });

  it("are called as no other is", () => {
    expect(freeName("Place", ["Place 1", "Quay"])).toBe("Place 2");
  });
});

describe("a job", () => {
  it("is offered for every name that rigs bear and no document has", () => {
    const rigs = [rig("a", "Night ferry", ["2026-05-04"]), rig("b", "Night ferry"), rig("c", "Harbour"), rig("d", null)];
    expect(unwritten(rigs, [{ document: begun("Harbour") }])).toEqual([{ name: "Night ferry", days: ["2026-05-04"] }]);
  });

  it("goes on with the day after its last, at the same times", () => {
    const job: Job = { ...begun("Ferry"), days: [{ ...bare("2026-05-31"), call: "18:00", wrap: "04:00" }] };
    expect(withNextDay(job, "2026-01-01").days?.[1]).toMatchObject({ ...bare("2026-06-01"), call: "18:00", wrap: "04:00" });
    expect(withNextDay(begun("Ferry"), "2026-01-01").days?.[0]?.date).toBe("2026-01-01");
    expect(withDay(job, 0, { temperature_c: -5 }).days?.[0]?.temperature_c).toBe(-5);
  });

  it("puts a block after the last one, never beyond the wrap", () => {
    const first = withNextBlock({ ...bare("2026-05-04"), call: "18:00", wrap: "19:30" }, ["a"]);
    expect(first.blocks?.[0]).toMatchObject({ begins: "18:00", ends: "19:00", rigs: [{ rig: "a", use: "rolling" }] });
    const second = withNextBlock(first, ["a"]);
    expect(second.blocks?.[1]).toMatchObject({ begins: "19:00", ends: "19:30" });
    expect(withNextBlock(bare("2026-05-04"), []).call).toBe("08:00");
  });

  it("uses a rig otherwise, or not at all", () => {
    const block = withNextBlock({ ...bare("2026-05-04"), call: "18:00" }, ["a"]).blocks![0]!;
    expect(withUse(block, "b", "standby").rigs).toContainEqual({ rig: "b", use: "standby", rolling_percent: 30 });
    expect(withUse(block, "a", "none").rigs).toEqual([]);
  });
});
