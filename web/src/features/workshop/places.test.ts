import { expect, it } from "vitest";

import type { Face, Profile } from "../../api/client";
import { movedBy, sideOf, sizeOf, withPlace } from "./places";

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
  expect(movedBy(left, "a", -0.02, 0)).toEqual([0.23, 0.5]);
  expect(movedBy(left, "a", -5, 5)).toEqual([0, 1]);
});
