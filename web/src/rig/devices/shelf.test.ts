import { expect, it } from "vitest";

import type { Catalogue, Saved, SavedKit } from "../../api/client";
import { findOnShelf, shelfOf } from "./shelf";

const profile = (id: string, name: string, kind: string, matters: string[] = []) => ({ id, name, kind, summary: "", matters });
const catalogue = {
  profiles: [
    profile("box", "Box body", "camera-body", ["Mounts: PL lens mount."]),
    profile("grip", "Grip", "gimbal", ["Ports: CAM (USB-C)."]),
    profile("ring", "Ring", "gimbal"),
  ],
} as unknown as Catalogue;
const kit = {
  document: {
    id: "van",
    name: "Van",
    devices: [
      { profile: "ring", count: 1 },
      { profile: "box", count: 0 },
    ],
  },
} as unknown as SavedKit;
const rigs = [{ document: { devices: [{ profile: "grip" }, { profile: "grip" }] } }] as unknown as Saved[];
const shelf = shelfOf(catalogue, [kit], rigs);

it("has the kit's own first, then what is used most; what the kit has none of is no piece of it", () => {
  expect(shelf.map((one) => [one.profile.id, one.from, one.used])).toEqual([
    ["ring", "Van", 0],
    ["grip", "", 1],
    ["box", "", 0],
    ["ring", "", 0],
  ]);
});

it("is searched by whatever matters, and by kind", () => {
  expect(findOnShelf(shelf, "pl body", "").map((one) => one.profile.id)).toEqual(["box"]);
  expect(findOnShelf(shelf, "usb-c", "").map((one) => one.profile.id)).toEqual(["grip"]);
  expect(findOnShelf(shelf, "", "gimbal").map((one) => one.key)).toEqual(["van 0", "grip", "ring"]);
  expect(findOnShelf(shelf, "anvil", "")).toEqual([]);
});
