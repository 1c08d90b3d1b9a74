import { describe, expect, it } from "vitest";

import type { Step } from "../../api/client";
import type { Mark } from "../../rig";
import { byDevice, goes, lampOf, lasts, percent, standingOf, type NextLook, type Sight } from "./model";

const steps = ["gather", "plug", "wake", "prove"].map((id) => ({ id }) as Step);
const mark = (what: Mark["what"], minute: number) =>
  ({ what, at: `2026-05-04T10:${String(minute).padStart(2, "0")}:00Z`, person: "", revision: 1 }) as Mark;

describe("how a rig stands", () => {
  it("is all of the sheet where nobody ticked anything", () => {
    expect(standingOf(steps, {}, [])).toEqual({ done: null, differs: null, happened: [], changed: [] });
  });

  it("is what was done, in the order in which it was", () => {
    const marks = { wake: mark("done", 3), gather: mark("done", 1), plug: mark("skipped", 2) };
    expect(standingOf(steps, marks, []).done).toEqual(["gather", "wake"]);
  });

  it("ends at the step that does not look as it should, which was carried out", () => {
    const marks = { gather: mark("done", 1), plug: mark("differs", 2) };
    expect(standingOf(steps, marks, [])).toMatchObject({ done: ["gather", "plug"], differs: "plug" });
  });

  it("has what comes before that step where nothing was ticked", () => {
    expect(standingOf(steps, { wake: mark("differs", 2) }, []).done).toEqual(["gather", "plug", "wake"]);
  });

  it("knows after how many steps something happened, and to what", () => {
    const marks = { gather: mark("done", 1), plug: mark("spoilt", 3), wake: mark("done", 5) };
    const happened = [{ what: "restarted" as const, device: "body", at: mark("done", 3).at }];
    expect(standingOf(steps, marks, happened)).toMatchObject({
      done: ["gather", "plug", "wake"],
      happened: [{ what: "restarted", device: "body", after: 2 }],
      changed: ["body"],
    });
  });

  it("leaves out steps that are no longer on the sheet", () => {
    expect(standingOf(steps, { gone: mark("done", 1), plug: mark("done", 2) }, []).done).toEqual(["plug"]);
  });
});

describe("in words", () => {
  it("says how likely", () => {
    expect([0.999, 0.86, 0.004].map(percent)).toEqual(["sure", "86 %", "under 1 %"]);
  });

  it("says how long", () => {
    expect([0.2, 5, 89, 120].map(lasts)).toEqual(["1 s", "5 s", "89 s", "2 min"]);
  });

  it("says how much a look tells", () => {
    const said = [0.7, 0.5, 0.3, 0.1].map((part) => goes({ goes: part } as NextLook));
    expect(said).toEqual([
      "Most of the likely causes go.",
      "Half of the likely causes go.",
      "Some of the likely causes go.",
      "It tells a little.",
    ]);
  });

  it("draws a lamp only where a lamp is named", () => {
    expect(lampOf("lamp:grip.link", "slow blinking green")).toEqual({ colour: "bg-good border-good", blinks: true });
    expect(lampOf("lamp:grip.link", "dark")).toMatchObject({ blinks: false });
    expect(lampOf("lamp:phone.app", "picture page")).toBeUndefined();
    expect(lampOf("read-setting:body.x", "green")).toBeUndefined();
  });

  it("puts looks together by device, and leaves promises out", () => {
    const sight = (id: string, device: string | null, isPromise = false) => ({ id, device, is_promise: isPromise }) as Sight;
    const found = byDevice([sight("a", "body"), sight("p", "body", true), sight("b", null), sight("c", "body")]);
    expect(found.map(([device, looks]) => [device, looks.map(({ id }) => id)])).toEqual([
      ["body", ["a", "c"]],
      ["", ["b"]],
    ]);
  });
});
