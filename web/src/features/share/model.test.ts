import { expect, it } from "vitest";

import { codeIn, roleName, ROLES, spelt } from "./model";

it("spells a code in two halves", () => expect(spelt("ABCDEFGH")).toBe("ABCD EFGH"));

it("takes the code out of the address", () => {
  expect(codeIn("?code=ABCDEFGH")).toBe("ABCDEFGH");
  expect(codeIn("")).toBe("");
});

it("has a name for each role", () => {
  expect(ROLES.map(({ role }) => roleName(role))).toEqual(["Crew", "Planner", "Guest"]);
});
