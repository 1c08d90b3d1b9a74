import { expect, it } from "vitest";

import type { Rig } from "../../api/client";
import { cablePin, withoutPin, withPin } from "./pins";

const rig = { pins: [] } as unknown as Rig;
const link = { a: { device: "body", endpoint: "usb" }, b: { device: "grip", endpoint: "camera" } };

it("pins a cable where it lies, and the newer pin takes the older's place", () => {
  const once = withPin(rig, cablePin(link, "short"));
  const twice = withPin(once, cablePin(link, "long"));
  expect(twice.pins).toEqual([{ kind: "cable", a: { device: "body", port: "usb" }, b: { device: "grip", port: "camera" }, cable: "long" }]);
});

it("keeps pins of other things apart and takes one away by its place", () => {
  const one = withPin(withPin(rig, { kind: "off", device: "phone" }), { kind: "keep-out", at: { device: "grip", port: "charge" } });
  const two = withPin(one, { kind: "off", device: "lens" });
  expect(two.pins).toHaveLength(3);
  expect(withoutPin(two, 0).pins?.map((pin) => pin.kind)).toEqual(["keep-out", "off"]);
});
