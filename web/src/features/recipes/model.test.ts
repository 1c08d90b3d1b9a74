import { expect, it } from "vitest";

import type { LogLine, Rig } from "../../api/client";
import { begun, givesOf, givesWords, lacks, rateWords, stepsFrom, trimmed } from "./model";

const rig = { devices: [{ profile: "body", firmware: "1.2" }, { profile: "grip" }] } as unknown as Rig;

it("never tells a rate as a sure thing", () => {
  expect(rateWords({ worked: 0, tries: 0, low: 0, high: 1 })).toBe("never tried yet");
  expect(rateWords({ worked: 2, tries: 3, low: 0.2077, high: 0.9385 })).toBe("worked 2 of 3: by that, 21 % to 94 %");
});

it("begins with the devices of a rig and what is known of their firmware", () => {
  expect(begun(rig).devices).toEqual([
    { profile: "body", firmware: "1.2" },
    { profile: "grip", firmware: null },
  ]);
  expect(begun(undefined).devices).toEqual([]);
});

it("says what is missing, one thing at a time", () => {
  const first = begun(rig);
  expect(lacks(first)).toBe("Give it a name.");
  const named = { ...first, name: "Sleepy" };
  expect(lacks({ ...named, devices: [] })).toBe("Say with which devices.");
  expect(lacks(named)).toBe("Say what it gives.");
  const giving = { ...named, gives: [{ kind: "picture" as const }] };
  expect(lacks(giving)).toBe("Write at least one step.");
  expect(lacks({ ...giving, steps: [{ says: "Wake it." }] })).toBeUndefined();
});

it("saves no empty steps", () => {
  const whole = { ...begun(rig), name: " A ", steps: [{ says: " Wake it. ", expect: " " }, { says: " " }], conditions: " " };
  expect(trimmed(whole)).toMatchObject({ name: "A", steps: [{ says: "Wake it.", expect: null }], conditions: null });
});

it("makes steps of the log", () => {
  const lines = [
    { what: "done", words: "Wake the grip", text: "" },
    { what: "restarted", words: "Link", text: "" },
    { what: "note", words: "", text: "Menu open" },
  ];
  expect(stepsFrom(lines as LogLine[]).map(({ says }) => says)).toEqual(["Wake the grip", "Link: restart it", "Menu open"]);
});

it("gives nothing between devices that it has no longer", () => {
  const gives = [{ kind: "control" as const, function: "iso", at: "phone", to: "body" }];
  expect(givesOf(gives, [{ profile: "body" }])).toEqual([{ ...gives[0], at: null }]);
});

it("says what it gives, and between which devices", () => {
  const words = (one: Parameters<typeof givesWords>[0]) =>
    givesWords(
      one,
      (id) => id.toUpperCase(),
      (id) => `the ${id}`,
    );
  expect(words({ kind: "control", function: "iso", at: "phone", to: "body" })).toBe("ISO on the body from the phone");
  expect(words({ kind: "control", function: "iso" })).toBe("ISO");
  expect(words({ kind: "picture", function: null, at: "phone" })).toBe("a picture on the phone");
});
