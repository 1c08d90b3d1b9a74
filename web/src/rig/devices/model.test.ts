import { describe, expect, it } from "vitest";

import type { Kit, Rig } from "../../api/client";
import { withCables, withDevice, withDeviceChanged, withKit, withoutDevice, withSetting, type Device } from "./model";

const rig = { devices: [], bag: [{ cable: "a", count: 1 }], promises: [] } as unknown as Rig;

it("keeps a cable type listed at nought, and never goes below", () => {
  expect(withCables(rig, "a", -1).bag).toEqual([{ cable: "a", count: 0 }]);
  expect(withCables(rig, "b", 2).bag).toEqual([
    { cable: "a", count: 1 },
    { cable: "b", count: 2 },
  ]);
});

describe("the devices of a rig", () => {
  const full = {
    devices: [
      { id: "grip", profile: "g" },
      { id: "phone", profile: "p" },
    ],
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

  it("get ids of their own", () =>
    expect(withDevice(full, { profile: "grip" }).devices[2]).toMatchObject({ id: "grip-2", profile: "grip" }));
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
    expect(withKit(full, kit).bag).toEqual([
      { cable: "hdmi", count: 99 },
      { cable: "bnc", count: 1 },
    ]);
  });
  it("go with the promises and pins that name them", () => {
    const left = withoutDevice(full, "phone");
    expect(left.devices.map((one) => one.id)).toEqual(["grip"]);
    expect(left.promises.map((one) => one.id)).toEqual(["roll", "hours"]);
    expect(left.pins?.map((pin) => pin.kind)).toEqual(["keep-out"]);
  });
  it("go with the recipes that need them", () => {
    const taken = { promise: "roll", recipe: {}, devices: ["grip", "phone"] } as unknown as NonNullable<Rig["recipes"]>[number];
    expect(withoutDevice({ ...full, recipes: [taken] }, "phone").recipes).toEqual([]);
    expect(withoutDevice({ ...full, recipes: [{ ...taken, devices: ["grip"] }] }, "phone").recipes).toHaveLength(1);
  });
  it("go with the picture that was promised of them", () => {
    const of = { ...full, promises: full.promises.map((one) => (one.kind === "picture" ? { ...one, of: "grip" } : one)) };
    expect(withoutDevice(of, "grip").promises.map((one) => one.id)).toEqual(["hours"]);
  });
  it("are told what is known of them", () => {
    expect(withDeviceChanged(full, "grip", { firmware: "2.1" }).devices[0]).toMatchObject({ id: "grip", firmware: "2.1" });
    const set = withSetting({ settings: { usb: "on" } } as unknown as Device, "remote", "off");
    expect(set).toEqual({ settings: { usb: "on", remote: "off" } });
    expect(withSetting(set as Device, "usb", null)).toEqual({ settings: { remote: "off" } });
  });
});
