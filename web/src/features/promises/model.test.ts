import { describe, expect, it } from "vitest";

import type { Catalogue, Kit, Rig } from "../../api/client";
import { byPerson, newPromise, surfacesOf, weightsFor, withCables, withDevice, withDeviceNamed, withKit, withoutDevice, withPersonRenamed, withPromise } from "./model";

const catalogue = {
  profiles: [
    {
      id: "grip",
      name: "Grip",
      surfaces: [
        { id: "button", name: "button", kind: "button", functions: ["record"], shows: false },
        { id: "screen", name: "screen", kind: "screen", functions: [], shows: true },
      ],
    },
  ],
} as unknown as Catalogue;
const rig = {
  devices: [{ id: "g", profile: "grip", name: "My grip" }],
  bag: [{ cable: "a", count: 1 }],
  promises: [],
} as unknown as Rig;
const surfaces = surfacesOf(rig, catalogue);

describe("a new promise", () => {
  it("takes a function that is not yet promised there", () => {
    const made = newPromise("control", rig, surfaces, "Operator");
    expect(made).toMatchObject({ kind: "control", id: "record", function: "record", at: { device: "g", surface: "button" } });
  });
  it("puts a picture on a screen", () => expect(newPromise("picture", rig, surfaces, "X")).toMatchObject({ at: { surface: "screen" } }));
  it("is not made when the rig has no surface for it", () => expect(newPromise("picture", rig, [], "X")).toBeUndefined());
  it("gets an id of its own", () => {
    const first = newPromise("power", rig, surfaces, "X")!;
    expect(newPromise("power", { ...rig, promises: [first] }, surfaces, "X")).toMatchObject({ id: "hours-2" });
  });
});

it("names surfaces as the crew calls the device", () => expect(surfaces[0]?.name).toBe("My grip: button"));

it("groups promises by person in the order of the rig", () => {
  const promises = ["Operator", "Director", "Operator"].map((who, n) => ({ ...newPromise("power", rig, [], who)!, id: `p${n}` }));
  const groups = byPerson({ ...rig, promises });
  expect(groups.map(([who, those]) => [who, those.length])).toEqual([["Operator", 2], ["Director", 1]]);
});

it("changes one promise and leaves the others", () => {
  const promises = ["a", "b"].map((id) => ({ ...newPromise("power", rig, [], "X")!, id }));
  const changed = withPromise({ ...rig, promises }, "b", { weight: 9 });
  expect(changed.promises.map((one) => one.weight)).toEqual([3, 9]);
});

it("renames a person in all their promises", () => {
  const promises = ["A", "B", "A"].map((who, n) => ({ ...newPromise("power", rig, [], who)!, id: `p${n}` }));
  expect(withPersonRenamed({ ...rig, promises }, "A", "C").promises.map((one) => one.who)).toEqual(["C", "B", "C"]);
});

it("offers a promise's own weight whatever it is", () => {
  expect(weightsFor(3)).toHaveLength(6);
  expect(weightsFor(7).at(-1)).toEqual({ value: "7", label: "weight 7" });
});

it("keeps a cable type listed at nought, and never goes below", () => {
  expect(withCables(rig, "a", -1).bag).toEqual([{ cable: "a", count: 0 }]);
  expect(withCables(rig, "b", 2).bag).toEqual([{ cable: "a", count: 1 }, { cable: "b", count: 2 }]);
});

describe("the devices of a rig", () => {
  const full = {
    devices: [{ id: "grip", profile: "g" }, { id: "phone", profile: "p" }],
    promises: [
      { id: "roll", kind: "control", function: "record", at: { device: "grip", surface: "button" }, to: null },
      { id: "see", kind: "picture", at: { device: "phone", surface: "glass" } },
      { id: "hours", kind: "power", hours_h: 2 },
    ],
    pins: [
      { kind: "off", device: "phone" },
      { kind: "way", promise: "see", over: ["body.hdmi--phone.x"] },
      { kind: "keep-out", at: { device: "grip", port: "usb" } },
    ],
  } as unknown as Rig;

  it("get ids of their own", () => expect(withDevice(full, { profile: "grip" }).devices[2]).toMatchObject({ id: "grip-2", profile: "grip" }));
  it("know what the kit knows of a piece, and take a tag that is free", () => {
    const piece = { profile: "p", tags: ["P-1", "P-2"], firmware: "2.0", licences: ["pro"] };
    const two = withDevice(withDevice(full, piece), piece);
    expect(two.devices.slice(2).map((device) => [device.tag, device.firmware, device.licences])).toEqual([
      ["P-1", "2.0", ["pro"]],
      ["P-2", "2.0", ["pro"]],
    ]);
  });
  it("have the bag filled from a kit", () => {
    const kit = { cables: [{ cable: "hdmi", count: 300 }, { cable: "bnc" }] } as unknown as Kit;
    expect(withKit(full, kit).bag).toEqual([{ cable: "hdmi", count: 99 }, { cable: "bnc", count: 1 }]);
  });
  it("go with the promises and pins that name them", () => {
    const left = withoutDevice(full, "phone");
    expect(left.devices.map((one) => one.id)).toEqual(["grip"]);
    expect(left.promises.map((one) => one.id)).toEqual(["roll", "hours"]);
    expect(left.pins?.map((pin) => pin.kind)).toEqual(["keep-out"]);
  });
  it("can be called otherwise, and lose their name again", () => {
    expect(withDeviceNamed(full, "grip", " Left grip ").devices[0]?.name).toBe("Left grip");
    expect(withDeviceNamed(full, "grip", " ").devices[0]?.name).toBeNull();
  });
});
