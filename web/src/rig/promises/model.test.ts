import { expect, it } from "vitest";

import type { Catalogue, Rig, RigPromise } from "../../api/client";
import { byPerson, surfacesOf, weightsFor, withPersonRenamed, withPromise, withPromises } from "./model";

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
const hours = (who: string, id: string): RigPromise => ({ kind: "power", id, who, hours_h: 2, changes: 0, over_others: false, weight: 3 });

it("names surfaces as the crew calls the device", () => expect(surfaces[0]?.name).toBe("My grip: button"));

it("groups promises by person in the order of the rig", () => {
  const promises = ["Operator", "Director", "Operator"].map((who, n) => hours(who, `p${n}`));
  const groups = byPerson({ ...rig, promises });
  expect(groups.map(([who, those]) => [who, those.length])).toEqual([
    ["Operator", 2],
    ["Director", 1],
  ]);
});

it("changes one promise and leaves the others", () => {
  const promises = ["a", "b"].map((id) => hours("X", id));
  const changed = withPromise({ ...rig, promises }, "b", { weight: 9 });
  expect(changed.promises.map((one) => one.weight)).toEqual([3, 9]);
});

it("renames a person in all their promises", () => {
  const promises = ["A", "B", "A"].map((who, n) => hours(who, `p${n}`));
  expect(withPersonRenamed({ ...rig, promises }, "A", "C").promises.map((one) => one.who)).toEqual(["C", "B", "C"]);
});

it("offers a promise's own weight whatever it is", () => {
  expect(weightsFor(3)).toHaveLength(6);
  expect(weightsFor(7).at(-1)).toEqual({ value: "7", label: "weight 7" });
});

it("adds promises under ids that are free", () => {
  const added = withPromises({ ...rig, promises: [hours("A", "hours")] }, [hours("B", "hours"), hours("C", "hours")]);
  expect(added.promises.map((one) => [one.id, one.who])).toEqual([
    ["hours", "A"],
    ["hours-2", "B"],
    ["hours-3", "C"],
  ]);
});
