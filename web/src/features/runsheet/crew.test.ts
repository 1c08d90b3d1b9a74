import { expect, it } from "vitest";

import type { Step } from "../../api/client";
import { crewOf, doneAgo, ownerOf, shownCards, turnsNow, underWay, type Crewed } from "./crew";
import { cardsOf } from "./model";

const step = (id: string, stage: string, device?: string, waits_s = 0) =>
  ({ id, stage, device, waits_s, title: id, card: "" }) as unknown as Step;
const steps = [step("a", "wake", "body", 30), step("b", "wake", "grip"), step("c", "lens", "body")];
const mark = (what: string, at: string, person = "") => ({ what, at, person });

it("counts me first, then who was given or did something, then stand-ins", () => {
  expect(crewOf("Ada", {}, {}, 3)).toEqual(["Ada", "Second", "Third"]);
  expect(crewOf("Ada", { a: mark("done", "", "Bo") }, { "stage:lens": "Cy" }, 2)).toEqual(["Ada", "Cy"]);
  expect(crewOf("", {}, {}, 1)).toEqual(["You"]);
});

it("belongs to whom the step, its device or its stage was given, in that order", () => {
  const given = { a: "Ada", "device:body": "Bo", "stage:wake": "Cy" };
  expect(steps.map((one) => ownerOf(one, given))).toEqual(["Ada", "Cy", "Bo"]);
  expect(ownerOf(steps[0]!, {})).toBeUndefined();
});

it("shows mine, nobody's, or what is like the card at hand", () => {
  const cards = cardsOf(steps);
  const shown = (whose: "all" | "mine" | "nobodys" | "device" | "stage") =>
    shownCards(cards, whose, "Ada", { a: "Ada" }, cards[2]).map(({ title }) => title);
  expect(shown("all")).toEqual(["a", "b", "c"]);
  expect(shown("mine")).toEqual(["a"]);
  expect(shown("nobodys")).toEqual(["b", "c"]);
  expect(shown("device")).toEqual(["a", "c"]);
  expect(shown("stage")).toEqual(["c"]);
});

it("says since when a step is done, and nothing of one that is not", () => {
  const now = new Date("2026-05-04T10:00:20Z").getTime();
  expect(doneAgo({ a: mark("done", "2026-05-04T10:00:00Z"), b: mark("differs", "2026-05-04T10:00:00Z") }, now)).toEqual({ a: 20 });
});

it("waits for what goes on by itself, and no longer", () => {
  const marks = { a: mark("done", "2026-05-04T10:00:00Z") };
  const at = (text: string) => underWay(steps, marks, new Date(text).getTime()).map(({ step: one, left_s }) => [one.id, left_s]);
  expect(at("2026-05-04T10:00:12Z")).toEqual([["a", 18]]);
  expect(at("2026-05-04T10:00:31Z")).toEqual([]);
  expect(at("2026-05-04T09:59:00Z")).toEqual([]);
});

it("tells each what to take now", () => {
  const crewed = {
    turns: [
      { step: "a", by: ["Ada"], from_s: 0 },
      { step: "b", by: ["Bo"], from_s: 20 },
    ],
  } as unknown as Crewed;
  expect(turnsNow(crewed, ["Bo", "Cy"])).toEqual([
    { person: "Bo", step: "b", in_s: 20 },
    { person: "Cy", step: undefined, in_s: 0 },
  ]);
});
