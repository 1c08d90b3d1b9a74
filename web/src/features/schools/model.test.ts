import { expect, it } from "vitest";

import type { Advice, Rig } from "../../api/client";
import { isFixed, withSchool, withShot } from "./model";

const rig = { schools: { wake: "profile" }, shot: { marks: false, near_m: 1 } } as unknown as Rig;
const advice = (fixed: string) => ({ kind: "focus", fixed, options: [{ id: "motor" }, { id: "through-body" }] }) as unknown as Advice;

it("knows a choice that is left open from one that is fixed", () => {
  expect(isFixed(advice("either"))).toBe(false);
  expect(isFixed(advice("motor"))).toBe(true);
});

it("changes one school and leaves the others", () =>
  expect(withSchool(rig, "focus", "motor").schools).toEqual({ wake: "profile", focus: "motor" }));

it("changes one figure of the shot", () => expect(withShot(rig, { marks: true }).shot).toEqual({ marks: true, near_m: 1 }));
