import { expect, it } from "vitest";

import type { Saved } from "../../api/client";
import { begun, dayAtHand, freeLetter, jobAtHand, jobsOf, NO_JOB, rigsOn } from "./model";

const saved = (id: string, camera: string, production: string | null, days: string[], made_at: string) =>
  ({ document: { id, camera, production, days }, made_at }) as unknown as Saved;
const rigs = [
  saved("a", "B", "Ferry", ["2026-05-04", "2026-05-06"], "1"),
  saved("b", "A", "Ferry", [], "2"),
  saved("c", "A", "Harbour", ["2026-05-01"], "3"),
  saved("d", "A", null, [], "0"),
];
const jobs = jobsOf(rigs);
const ferry = jobs.find((job) => job.name === "Ferry")!;

it("puts rigs to their jobs, the one changed last first", () => {
  expect(jobs.map((job) => [job.name, job.rigs.length])).toEqual([
    ["Harbour", 1],
    ["Ferry", 2],
    [NO_JOB, 1],
  ]);
});

it("finds the job and the day at hand", () => {
  expect(jobAtHand(jobs, "2026-05-04")?.name).toBe("Ferry");
  expect(jobAtHand(jobs, "2026-07-01")?.name).toBe("Harbour");
  expect([dayAtHand(ferry, "2026-05-05"), dayAtHand(ferry, "2026-05-09")]).toEqual(["2026-05-06", "2026-05-06"]);
  expect(
    dayAtHand(
      jobs.find((job) => job.name === NO_JOB)!,
      "2026-05-05",
    ),
  ).toBe("");
});

it("shows on a day what is used then, and what has no days", () => {
  expect(rigsOn(ferry, "2026-05-06").map((one) => one.document.id)).toEqual(["b", "a"]);
  expect(rigsOn(ferry, "2026-05-05").map((one) => one.document.id)).toEqual(["b"]);
});

it("gives a new rig a letter that is free and a name of its own", () => {
  expect(freeLetter(ferry)).toBe("C");
  expect(freeLetter(undefined)).toBe("A");
  const made = begun({ devices: [], bag: [] }, { name: " ", camera: "C", job: "Ferry", day: "2026-05-04" });
  expect(made).toMatchObject({ name: "Ferry, C camera", production: "Ferry", days: ["2026-05-04"], promises: [] });
});
