import { expect, it } from "vitest";

import type { Answer, FaceSide, Socket } from "../../api/client";
import { around, doorsOf, endsSeen, fitted, labelAt, ringOf, spotOf } from "./model";

const socket = (id: string, x_mm: number, y_mm: number, more: Partial<Socket> = {}) =>
  ({ id, marking: id, place: "", connector: "usb-c", plug: "USB-C", x_mm, y_mm, width_mm: 8, height_mm: 3, turned: 0, ...more }) as Socket;
const side = (sockets: Socket[], width_mm = 80, height_mm = 60) =>
  ({ side: "left", width_mm, height_mm, is_round: false, in_a_row: false, sockets, marks: [] }) as unknown as FaceSide;
const BOX = { x: 10, y: 20, width: 200, height: 120 };

it("puts a side in the middle of its box, as large as it goes in and no larger than is sensible", () => {
  expect(fitted(side([]), BOX)).toMatchObject({ scale: 2, x: 30, y: 20, width: 160, height: 120 });
  expect(fitted(side([], 10, 10), BOX).scale).toBeLessThan(4);
});

it("shows a large side whole while what is meant can be told apart", () => {
  const far = side([socket("a", 50, 50), socket("b", 110, 50)], 150, 100);
  expect(around(far, BOX, ["a", "b"]).scale).toBe(fitted(far, BOX).scale);
});

it("goes near where two that are meant would lie on each other, with both in sight", () => {
  const near = side([socket("a", 80, 100), socket("b", 80, 128)], 175, 345);
  const at = around(near, BOX, ["a", "b"]);
  expect(at.scale).toBeGreaterThan(fitted(near, BOX).scale);
  const [a, b] = near.sockets.map((one) => spotOf(one, at));
  expect(b!.y - a!.y).toBeGreaterThan(40);
  for (const spot of [a!, b!]) {
    expect(spot.y).toBeGreaterThan(BOX.y);
    expect(spot.y).toBeLessThan(BOX.y + BOX.height);
    expect(spot.x).toBeGreaterThan(BOX.x);
    expect(spot.x).toBeLessThan(BOX.x + BOX.width);
  }
});

it("keeps rings of neighbours apart", () => {
  const close = side([socket("a", 20, 20), socket("b", 20, 30)]);
  const [a, b] = close.sockets.map((one) => ringOf(one, close, 2));
  expect(a! + b!).toBeLessThanOrEqual(20);
});

it("draws one door around all that is behind it", () => {
  const flap = side([socket("a", 20, 20, { door: "flap" }), socket("b", 20, 40, { door: "flap" }), socket("c", 60, 40)]);
  const doors = doorsOf(flap, fitted(flap, BOX));
  expect(doors.map(({ name }) => name)).toEqual(["flap"]);
  const spots = flap.sockets.slice(0, 2).map((one) => spotOf(one, fitted(flap, BOX)));
  for (const { x, y } of spots) {
    expect(x).toBeGreaterThan(doors[0]!.x);
    expect(y).toBeGreaterThan(doors[0]!.y);
    expect(y).toBeLessThan(doors[0]!.y + doors[0]!.height);
  }
});

it("writes a marking beside its ring, on the side where there is room, else above or below", () => {
  const room = { x: 0, y: 0, width: 200, height: 100 };
  expect(labelAt("USB", { x: 20, y: 50 }, 13, room, false).anchor).toBe("start");
  expect(labelAt("USB", { x: 180, y: 50 }, 13, room, false).anchor).toBe("end");
  const above = labelAt("a long marking here", { x: 100, y: 50 }, 13, room, false);
  expect(above.anchor).toBe("middle");
  expect(above.y).toBeLessThan(50 - 13);
  expect(labelAt("a long marking here", { x: 100, y: 50 }, 13, room, true).y).toBeGreaterThan(50 + 13);
});

const answer = {
  drawing: {
    devices: [
      { id: "body", profile: "p", name: "Body" },
      { id: "grip", profile: "q", name: "Grip" },
    ],
    faces: { p: { sides: [side([socket("usb", 10, 10)])] }, q: { sides: [side([socket("camera", 10, 10), socket("charge", 10, 40)])] } },
  },
  plan: {
    joins: [
      {
        link: { a: { device: "grip", endpoint: "camera" }, b: { device: "body", endpoint: "usb" } },
        beside: [{ device: "grip", endpoint: "charge" }],
      },
    ],
  },
} as unknown as Answer;

it("sees both ends of a join, and what must not be taken for the right port", () => {
  const told = [{ device: "grip", endpoint: "camera", plug: "Right-angle USB-C plug", says: "" }];
  const ends = endsSeen(
    answer,
    [
      { device: "body", endpoint: "usb" },
      { device: "grip", endpoint: "camera" },
    ],
    told,
  );
  expect(ends?.map(({ name, port, plug, crossed }) => [name, port, plug, crossed])).toEqual([
    ["Body", "usb", "", []],
    ["Grip", "camera", "Right-angle USB-C plug", ["charge"]],
  ]);
});

it("draws nothing where an end is no port, as of a radio or of a device that is not in the rig", () => {
  expect(
    endsSeen(answer, [
      { device: "body", endpoint: "wifi" },
      { device: "grip", endpoint: "camera" },
    ]),
  ).toBeUndefined();
  expect(
    endsSeen(answer, [
      { device: "gone", endpoint: "usb" },
      { device: "grip", endpoint: "camera" },
    ]),
  ).toBeUndefined();
  expect(
    endsSeen(undefined, [
      { device: "body", endpoint: "usb" },
      { device: "grip", endpoint: "camera" },
    ]),
  ).toBeUndefined();
});
