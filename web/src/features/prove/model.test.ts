import { expect, it } from "vitest";

import type { ProofByHand } from "../../rig";
import { isRefuted, missingOf, nextTest, readingsOf, recordOf, readTime, shownTime, takes, type Ask, type Test } from "./model";

const ask = (id: string, is_needed = true) => ({ id, says: id, unit: "", is_needed }) as Ask;
const asks = [ask("near-end"), ask("far-end"), ask("range", false)];

it("gives what was read in the order of what is asked, and nothing else", () => {
  expect(readingsOf(asks, {})).toEqual([]);
  expect(readingsOf(asks, { range: { value: 40 }, "near-end": { seen: true }, gone: { seen: true } })).toEqual([
    { ask: "near-end", seen: true },
    { ask: "range", value: 40 },
  ]);
});

it("misses what is needed only", () => expect(missingOf(asks, { "near-end": { seen: true } }).map(({ id }) => id)).toEqual(["far-end"]));

it("is refuted by one thing that was not seen", () => {
  expect(isRefuted({ a: { seen: true }, b: { value: 3 } })).toBe(false);
  expect(isRefuted({ a: { seen: true }, b: { seen: false } })).toBe(true);
});

it("goes on with the first that is not proven", () => {
  const tests = ["a", "b", "c"].map((promise) => ({ promise }) as Test);
  expect(nextTest(tests, { a: "proven", b: "lapsed", c: "planned" })).toBe(1);
  expect(nextTest(tests, { a: "proven", b: "benched" })).toBe(1);
  expect(nextTest(tests, { a: "proven", b: "proven", c: "proven" })).toBe(2);
  expect(nextTest([], {})).toBe(0);
});

it("reads takes as they are typed", () => {
  expect(takes("2, 3 3")).toEqual([2, 3, 3]);
  expect(takes("2; x")).toBeUndefined();
  expect(takes(" ")).toBeUndefined();
  expect(takes("-1")).toBeUndefined();
});

it("shows a time of one length, and reads it back", () => {
  expect(shownTime(0)).toBe("00:00.000");
  expect(shownTime(83_456.9)).toBe("01:23.456");
  for (const ms of [0, 7, 999, 1000, 61_005]) expect(readTime(shownTime(ms))).toBe(ms);
  expect(readTime("12,480")).toBe(12_480);
  expect(readTime("noon")).toBeUndefined();
});

it("keeps the record of a proof in a line", () => {
  const judged = [
    { ask: { id: "seen", unit: "" }, read: "seen" },
    { ask: { id: "delay", unit: "ms" }, read: "80 ± 3.4 ms" },
  ];
  const proof = { outcome: "proven", person: "Ada", at: "2026-05-04T14:03:00Z", judged } as unknown as ProofByHand;
  expect(recordOf(proof, () => "14:03")).toBe("Ada, 14:03 · delay 80 ± 3.4 ms");
  expect(recordOf({ ...proof, person: "", outcome: "failed", judged: [] }, () => "14:03")).toBe("14:03 · did not work");
  expect(recordOf(undefined)).toBe("not looked at yet");
});
