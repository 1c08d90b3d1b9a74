import { expect, it } from "vitest";

import type { Catalogue, Rig } from "../../api/client";
import { findCables, fixings, notLooked, withParts } from "./model";

const cable = (id: string, name: string, length_mm: number, ends: string[]) => ({
  id,
  name,
  family: "video",
  kind: "cable",
  length_mm,
  ends,
});

it("finds cables by the words on their ends, the shortest first", () => {
  const cables = [
    cable("a", "BNC to BNC", 900, ["BNC", "BNC"]),
    cable("b", "micro to mini", 300, ["micro HDMI (D)", "mini HDMI (C)"]),
    cable("c", "BNC, thin", 200, ["BNC"]),
  ] as unknown as Catalogue["cables"];
  expect(findCables(cables, "bnc").map((one) => one.id)).toEqual(["c", "a"]);
  expect(findCables(cables, "hdmi mini").map((one) => one.id)).toEqual(["b"]);
  expect(findCables(cables, "anvil")).toEqual([]);
});

it("says what nobody has looked at yet", () => {
  const profile = { firmware: "2.0", modes: {}, settings: [{ id: "usb" }, { id: "out" }] } as unknown as Catalogue["profiles"][number];
  const device = { firmware: null, mode: null, settings: { usb: "on" } } as unknown as Rig["devices"][number];
  expect(notLooked(device, profile)).toEqual(["firmware", "mode", "1 setting"]);
  expect(notLooked({ ...device, firmware: "2.0", mode: "video", settings: { usb: "on", out: "sdi" } }, profile)).toEqual([]);
  expect(notLooked(device, undefined)).toEqual([]);
});

it("says what is needed, and tells an empty bag from one of which nobody spoke", () => {
  const rig = {
    devices: [
      { id: "a", profile: "p" },
      { id: "b", profile: "q" },
    ],
  } as unknown as Rig;
  const profiles = [
    { id: "p", fixed_by: ["a 1/4-20 arm"] },
    { id: "q", fixed_by: [] },
  ];
  expect(fixings(rig, profiles)).toEqual([{ id: "a", words: ["a 1/4-20 arm"] }]);
  expect(withParts(withParts(rig, []), null).parts).toBeNull();
});
