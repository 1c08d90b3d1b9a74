import { expect, it } from "vitest";

import type { Profile } from "../../api/client";
import { copyOf, idFrom, newRole, refsOf, roleWords, toggled, withNewPort, withoutPort, withPort } from "./model";

const profile = {
  id: "grip",
  name: "Grip",
  ports: [{ id: "usb", side: "left", roles: [{ kind: "control", protocol: "body-tether", end: "host" }] }],
  emits: [{ functions: ["record"], surface: "button", over: "usb/body-tether" }],
  accepts: [{ functions: ["gimbal-move"], surface: "stick", over: null }],
  exclusive: [["usb", "other"]],
} as unknown as Profile;

it("makes ids out of names", () => {
  expect(idFrom(" Our Grip, No. 2! ")).toBe("our-grip-no-2");
  expect(idFrom("***")).toBe("device");
});

it("copies an archetype under an id that is free", () => {
  expect(copyOf(profile, [])).toMatchObject({ id: "our-grip", name: "Our grip" });
  expect(copyOf(profile, ["our-grip"]).id).toBe("our-grip-2");
});

it("places, changes and takes away ports, and what went over them", () => {
  const more = withNewPort(profile, "top");
  expect(more.ports?.[1]).toMatchObject({ id: "port-2", side: "top" });
  expect(withPort(more, "port-2", { marking: "AUX" }).ports?.[1]?.marking).toBe("AUX");
  const less = withoutPort(profile, "usb");
  expect([less.ports?.length, less.emits?.length, less.accepts?.length, less.exclusive?.length]).toEqual([0, 0, 1, 0]);
});

it("names roles and the ways that functions can take", () => {
  expect(roleWords(newRole("power"))).toBe("power in, 4.75 to 5.25 V");
  expect(roleWords(newRole("control"))).toBe("control, body-tether, device");
  expect(roleWords(newRole("video"))).toBe("picture out, hdmi");
  expect(roleWords(newRole("bus"))).toBe("motor bus motor-bus");
  expect(refsOf(profile)).toEqual(["usb/body-tether"]);
});

it("toggles an item of a list", () => {
  expect(toggled(["iris"], "iris")).toEqual([]);
  expect(toggled(["iris"], "iso")).toEqual(["iris", "iso"]);
});
