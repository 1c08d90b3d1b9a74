import { expect, it } from "vitest";

import type { Face, Profile } from "../../api/client";
import { markKey, marksOf, movedBy, sideOf, sizeOf, withMark, withPlace } from "./places";

const port = (id: string, at?: [number, number]) => ({ id, marking: id, place: "", side: "left", connector: "usb-c", at, roles: [] });
const draft = { size_mm: [100, 60, 40], ports: [port("a"), port("b", [0.5, 0.2])] } as unknown as Profile;
const socket = (id: string, x_mm: number, y_mm: number) => ({ id, marking: id, plug: "USB-C", x_mm, y_mm });
const face = {
  sides: [{ side: "left", width_mm: 40, height_mm: 60, in_a_row: true, sockets: [socket("a", 10, 30), socket("b", 30, 30)], marks: [] }],
} as unknown as Face;

it("knows how large each side is as one looks at it", () => {
  expect(sizeOf(draft, "front")).toEqual({ width_mm: 100, height_mm: 60 });
  expect(sizeOf(draft, "left")).toEqual({ width_mm: 40, height_mm: 60 });
  expect(sizeOf(draft, "top")).toEqual({ width_mm: 100, height_mm: 40 });
});

it("draws a side on which nothing is yet, so that something can be put there", () => {
  expect(sideOf(draft, face, "right", {})).toMatchObject({ side: "right", width_mm: 40, sockets: [] });
  expect(sideOf(draft, undefined, "front", {})).toMatchObject({ width_mm: 100, sockets: [] });
});

it("shows what is dragged where the finger is", () => {
  expect(sideOf(draft, face, "left", { a: [0.5, 0.5] }).sockets[0]).toMatchObject({ x_mm: 20, y_mm: 30 });
});

it("puts a port down, and gives the others of its side the places where they were drawn", () => {
  const left = sideOf(draft, face, "left", {});
  expect(withPlace(draft, left, "a", [0.123, 0.9]).ports?.map(({ at }) => at)).toEqual([
    [0.12, 0.9],
    [0.5, 0.2],
  ]);
  const bare = { ...draft, ports: [port("a"), port("b")] } as unknown as Profile;
  expect(withPlace(bare, left, "a", [0.1, 0.1]).ports?.map(({ at }) => at)).toEqual([
    [0.1, 0.1],
    [0.75, 0.5],
  ]);
});

it("keeps what is nudged on its side", () => {
  const left = sideOf(draft, face, "left", {});
  expect(movedBy(left, left.sockets[0]!, -0.02, 0)).toEqual([0.23, 0.5]);
  expect(movedBy(left, left.sockets[0]!, -5, 5)).toEqual([0, 1]);
});

it("puts lamps and buttons on a side, moves them and takes them off", () => {
  const bare = { ...draft, surfaces: [{ id: "wheel", name: "wheel" }], indicators: [{ id: "lamp", name: "lamp" }] } as unknown as Profile;
  const put = withMark(withMark(bare, "lamp", { side: "top" }), "wheel", { side: "left", at: [0.2, 0.3] });
  expect(marksOf(put).map(({ side, at }) => [side, at])).toEqual([
    ["left", [0.2, 0.3]],
    ["top", [0.5, 0.5]],
  ]);
  expect(marksOf(withMark(put, "wheel", { at: [0.9, 0.9] }))[0]).toMatchObject({ side: "left", at: [0.9, 0.9] });
  expect(marksOf(withMark(put, "lamp", null))[1]).toMatchObject({ side: null, at: null });
});

it("shows a mark where the finger is, and not the port of the same name", () => {
  const marked = {
    sides: [{ ...face.sides[0], marks: [{ id: "a", name: "a", kind: "lamp", x_mm: 1, y_mm: 1, width_mm: 4, height_mm: 4 }] }],
  } as Face;
  const left = sideOf(draft, marked, "left", { [markKey("a")]: [0.5, 0.5] });
  expect(left.marks[0]).toMatchObject({ x_mm: 20, y_mm: 30 });
  expect(left.sockets[0]).toMatchObject({ x_mm: 10, y_mm: 30 });
});
