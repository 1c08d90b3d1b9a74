import { expect, it } from "vitest";

import type { LogLine } from "../../api/client";
import { aboutOf, byDay, readOf, saysOf } from "./model";

const line = (fields: Partial<LogLine>) =>
  ({ at: "2026-05-04T10:00:00Z", subject: "", words: "", readings: [], photos: [], ...fields }) as LogLine;

it("keeps the order when it groups by day", () => {
  const lines = [line({ at: "2026-05-05T01" }), line({ at: "2026-05-04T23" }), line({ at: "2026-05-04T02" })];
  expect(byDay(lines, (at) => at.slice(0, 10)).map((run) => [run.day, run.lines.length])).toEqual([
    ["2026-05-05", 1],
    ["2026-05-04", 2],
  ]);
});

it("says what a line is about, and to whom it was given", () => {
  expect(aboutOf(line({ subject: "wake:body", words: "Wake the body" }))).toBe("Wake the body");
  expect(aboutOf(line({ subject: "stage:lens", to: "Bo" }))).toBe("stage:lens, to Bo");
});

it("says readings without working them out", () => {
  const readings = [
    { ask: "seen", seen: true },
    { ask: "delay", filmed: { frames: [5, 6], rate_fps: 60 } },
    { ask: "range", value: 40 },
  ];
  expect(readOf(line({ readings }))).toBe("seen ✔, delay 5, 6 frames at 60, range 40");
});

it("has words for every kind, and shows one that it does not know", () => {
  expect(saysOf("differs")).toBe("does not look like that");
  expect(saysOf("unheard")).toBe("unheard");
});
