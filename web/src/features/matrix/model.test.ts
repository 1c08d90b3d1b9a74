import { expect, it } from "vitest";

import type { Catalogue, Cell, Matrix, Rig } from "../../api/client";
import { bodiesOf, cellAt, groupsOf, sameCell, withAnything, withCellPromised } from "./model";

const cell = (name: string, surface: string, verdict: Cell["verdict"]) => ({ function: name, device: "grip", surface, verdict }) as Cell;
const matrix = {
  functions: ["record", "iris"],
  columns: [
    { device: "grip", surface: "button", device_name: "Grip", surface_name: "button" },
    { device: "grip", surface: "stick", device_name: "Grip", surface_name: "stick" },
  ],
  cells: [cell("record", "button", "yes"), cell("record", "stick", "no"), cell("iris", "button", "no"), cell("iris", "stick", "no")],
} as unknown as Matrix;

it("finds a cell", () => expect(cellAt(matrix, "record", matrix.columns[0]!)?.verdict).toBe("yes"));

it("leaves out rows and columns of nothing but no", () => {
  const open = withAnything(matrix);
  expect(open.functions).toEqual(["record"]);
  expect(open.columns).toHaveLength(1);
});

it("promises what a cell offers under an id of its own", () => {
  const rig = { promises: [{ id: "record" }] } as unknown as Rig;
  expect(withCellPromised(rig, cell("record", "button", "yes"), "Director").promises[1]).toMatchObject({
    id: "record-2",
    who: "Director",
    at: { device: "grip", surface: "button" },
  });
});

it("asks the bodies first, or whatever comes first", () => {
  const rig = {
    devices: [
      { id: "lens", profile: "l" },
      { id: "body", profile: "b" },
    ],
  } as unknown as Rig;
  const catalogue = { profiles: [{ id: "b", like: "camera-body" }] } as unknown as Catalogue;
  expect(bodiesOf(rig, catalogue)).toEqual(["body"]);
  expect(bodiesOf(rig, undefined)).toEqual(["lens"]);
});

it("groups columns under their device and finds a cell again", () => {
  expect(groupsOf(matrix.columns)).toEqual([["Grip", 2]]);
  expect(sameCell(matrix, cell("iris", "stick", "yes"))?.verdict).toBe("no");
  expect(sameCell(matrix, undefined)).toBeUndefined();
});
