import { expect, it } from "vitest";

import type { Answer, Rig } from "../api/client";
import { asBuilt, inItsCases } from "./building";

const flags = [{ tag: "A1", a: { device: "x", port: "y" }, b: { device: "z", port: "w" }, plugged: false }] as Answer["flags"];
const rig = { id: "a", name: "A", flags: [], built: null } as unknown as Rig;

it("keeps the document by which it was built, and what is plugged", () => {
  const built = asBuilt(rig, flags);
  expect(built.flags).toMatchObject([{ tag: "A1", plugged: true }]);
  expect(built.built).toMatchObject({ name: "A", built: null, flags: built.flags });
});

it("forgets what was built and keeps the flags", () => {
  const back = inItsCases(asBuilt(rig, flags));
  expect(back.built).toBeNull();
  expect(back.flags).toMatchObject([{ tag: "A1", plugged: false }]);
});
