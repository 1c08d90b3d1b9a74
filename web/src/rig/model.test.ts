import { describe, expect, it } from "vitest";

import type { Answer, Plan, Proof, Rig, RigPromise, Run } from "../api/client";
import { cablesLaid, deviceName, freeId, proofsShown, stateOf, withoutPromise, worstOf } from "./model";

const promise = { id: "roll", kind: "control" } as RigPromise;
const answer = (routes: string[], unmet: string[]) =>
  ({
    plan: { routes: routes.map((id) => ({ promise: id })) },
    not_kept: unmet,
    sheet: { steps: [{ id: "prove:roll", act: { kind: "prove", promise: "roll" } }] },
  }) as unknown as Answer;
const said = (what: string) => ({ "prove:roll": { what } });
const lapsed = { outcome: "proven", lapsed: ["Another cable."] } as const;
const proof = (ok: boolean) => ({ promise: "roll", ok, seen: "", at_s: 0 }) as Proof;

describe("how a promise stands", () => {
  it("is asked before there is an answer", () => expect(stateOf(promise, undefined, [], {})).toBe("asked"));
  it("is impossible when the plan cannot keep it", () =>
    expect(stateOf(promise, answer([], ["roll"]), [proof(true)], {})).toBe("impossible"));
  it("is maybe when it rests on a recipe, whatever was tried, and never more", () => {
    const resting = answer([], ["roll"]);
    Object.assign(resting.plan, { maybe: [{ promise: "roll" }] });
    expect(stateOf(promise, resting, [proof(true)], said("done"))).toBe("maybe");
    expect(worstOf(["maybe", "planned"])).toBe("maybe");
    expect(worstOf(["maybe", "impossible"])).toBe("impossible");
  });
  it("is planned when it has a route", () => expect(stateOf(promise, answer(["roll"], []), [], {})).toBe("planned"));
  it("is proven by the bench, or by a tick on the day", () => {
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], {})).toBe("benched");
    expect(stateOf(promise, answer(["roll"], []), [], said("done"))).toBe("proven");
  });
  it("has to be proven again when what was proven by hand rests on something else now", () => {
    expect(stateOf(promise, answer(["roll"], []), [], said("done"), lapsed)).toBe("lapsed");
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], said("done"), lapsed)).toBe("lapsed");
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], said("done"))).toBe("proven");
    expect(stateOf(promise, answer(["roll"], []), [], {}, lapsed)).toBe("planned");
  });
  it("stands as what was seen by hand says", () => {
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], said("differs"))).toBe("failing");
    expect(stateOf(promise, answer(["roll"], []), [], said("done"), { outcome: "failed" })).toBe("failing");
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], said("spoilt"), { outcome: "spoilt", lapsed: ["Restarted."] })).toBe(
      "lapsed",
    );
    expect(stateOf(promise, answer(["roll"], []), [], said("skipped"))).toBe("planned");
  });
  it("is failing when the last look failed, whatever was ticked", () =>
    expect(stateOf(promise, answer(["roll"], []), [proof(true), proof(false)], said("done"))).toBe("failing"));
});

it("shows only the proofs that playback has reached", () => {
  const run = { frames: [{}, { proof: proof(true) }, { proof: proof(false) }] } as unknown as Run;
  expect(proofsShown(run, 1)).toHaveLength(0);
  expect(proofsShown(run, 2)).toHaveLength(1);
  expect(proofsShown(undefined, 9)).toHaveLength(0);
});

it("takes along what is said of a promise that goes", () => {
  const of = (promise: string) => ({ promise, recipe: {}, devices: [] });
  const rig = {
    promises: [{ id: "roll" }, { id: "iso" }],
    pins: [
      { kind: "way", promise: "iso" },
      { kind: "off", device: "phone" },
    ],
    recipes: [of("iso"), of("roll")],
  } as unknown as Rig;
  const left = withoutPromise(rig, "iso");
  expect([left.promises.length, left.pins?.length, left.recipes?.map((one) => one.promise)]).toEqual([1, 1, ["roll"]]);
});

it("finds a free id", () => {
  expect(freeId("iso", [])).toBe("iso");
  expect(freeId("iso", ["iso", "iso-2"])).toBe("iso-3");
});

it("calls a device by its own name, else by its profile's, else by its id", () => {
  const rig = {
    devices: [
      { id: "grip", name: "Tansy" },
      { id: "body", name: null },
    ],
  } as unknown as Rig;
  const drawn = { drawing: { devices: [{ id: "body", name: "Mirrorless body" }] } } as unknown as Answer;
  expect(["grip", "body", "lens"].map((id) => deviceName(rig, id, drawn))).toEqual(["Tansy", "Mirrorless body", "lens"]);
});

it("counts the cables and adapters that a plan lays, a Y-cable once", () => {
  const link = (id: string, cable: string | null, lead: string | null = null, adapters: string[] = []) => ({
    link: { id, cable, lead, adapter_a: adapters[0] ?? null, adapter_b: adapters[1] ?? null },
  });
  const plan = {
    joins: [link("1", "hdmi"), link("2", "hdmi", null, ["mini", "mini"]), link("3", "y", "y#1"), link("4", "y", "y#1"), link("5", null)],
  } as unknown as Plan;
  expect(Object.fromEntries(cablesLaid(plan))).toEqual({ hdmi: 2, mini: 2, y: 1 });
});
