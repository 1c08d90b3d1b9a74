import { expect, it } from "vitest";

import { differences } from "./differences";

const rig = {
  id: "r",
  name: "A camera",
  devices: [{ id: "body", name: "Brindle" }, { id: "lens" }],
  promises: [{ id: "iris", who: "Director", function: "iris", kind: "control" }],
  bag: [{ cable: "bnc", count: 1 }],
  flags: [{ tag: "A1" }],
  shot: { focal_mm: 50, walk_s: null },
};

it("finds nothing between two that are alike, whatever the machine wrote down itself", () => {
  expect(differences(rig, { ...rig, flags: [], built: rig })).toEqual([]);
});

it("names what only one has, and what both have and differs", () => {
  const theirs = {
    ...rig,
    devices: [{ id: "body", name: "Brindle", tag: "B-1" }, { id: "phone" }],
    promises: [],
    bag: [{ cable: "bnc", count: 2 }],
  };
  expect(differences(rig, theirs)).toEqual([
    { what: "Devices", mine: ["lens"], theirs: ["phone"], changed: [{ name: "Brindle", mine: "tag nothing", theirs: "tag B-1" }] },
    { what: "Promises", mine: ["Director: iris"], theirs: [], changed: [] },
    { what: "Bag", mine: [], theirs: [], changed: [{ name: "bnc", mine: "count 1", theirs: "count 2" }] },
  ]);
});

it("shows fields with both values", () => {
  expect(differences(rig, { ...rig, name: "B camera", note: "wet", shot: { focal_mm: 35 } })).toEqual([
    { what: "Name", mine: ["A camera"], theirs: ["B camera"], changed: [] },
    { what: "Shot", mine: ["focal_mm 50"], theirs: ["focal_mm 35"], changed: [] },
    { what: "Note", mine: ["nothing"], theirs: ["wet"], changed: [] },
  ]);
});

it("says functions as the trade writes them", () => {
  const promise = (id: string, fn: string) => ({ id, kind: "control", who: "Director", function: fn });
  const found = differences({ promises: [promise("one", "iso"), promise("two", "white-balance")] }, { promises: [] });
  expect(found.find(({ what }) => what === "Promises")?.mine).toEqual(["Director: ISO", "Director: white balance"]);
});
