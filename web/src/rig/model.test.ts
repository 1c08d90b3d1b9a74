import { describe, expect, it } from "vitest";

import type { Answer, Proof, Rig, RigPromise, Run } from "../api/client";
import { deviceName, freeId, proofsShown, stateOf } from "./model";

const promise = { id: "roll", kind: "control" } as RigPromise;
const answer = (routes: string[], unmet: string[]) =>
  ({
    plan: { routes: routes.map((id) => ({ promise: id })), unmet: unmet.map((id) => ({ promise: id })) },
    sheet: { steps: [{ id: "prove:roll", act: { kind: "prove", promise: "roll" } }] },
  }) as unknown as Answer;
const proof = (ok: boolean) => ({ promise: "roll", ok, seen: "", at_s: 0 }) as Proof;

describe("how a promise stands", () => {
  it("is asked before there is an answer", () => expect(stateOf(promise, undefined, [], {})).toBe("asked"));
  it("is impossible when the plan cannot keep it", () =>
    expect(stateOf(promise, answer([], ["roll"]), [proof(true)], {})).toBe("impossible"));
  it("is planned when it has a route", () => expect(stateOf(promise, answer(["roll"], []), [], {})).toBe("planned"));
  it("is proven by the bench, or by a tick on the day", () => {
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], {})).toBe("benched");
    expect(stateOf(promise, answer(["roll"], []), [], { "prove:roll": "now" })).toBe("proven");
  });
  it("has to be proven again when what was proven by hand rests on something else now", () => {
    expect(stateOf(promise, answer(["roll"], []), [], { "prove:roll": "now" }, true)).toBe("lapsed");
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], { "prove:roll": "now" }, true)).toBe("lapsed");
    expect(stateOf(promise, answer(["roll"], []), [proof(true)], { "prove:roll": "now" })).toBe("proven");
    expect(stateOf(promise, answer(["roll"], []), [], {}, true)).toBe("planned");
  });
  it("is failing when the last look failed, whatever was ticked", () =>
    expect(stateOf(promise, answer(["roll"], []), [proof(true), proof(false)], { "prove:roll": "now" })).toBe("failing"));
});

it("shows only the proofs that playback has reached", () => {
  const run = { frames: [{}, { proof: proof(true) }, { proof: proof(false) }] } as unknown as Run;
  expect(proofsShown(run, 1)).toHaveLength(0);
  expect(proofsShown(run, 2)).toHaveLength(1);
  expect(proofsShown(undefined, 9)).toHaveLength(0);
});

it("finds a free id", () => {
  expect(freeId("iso", [])).toBe("iso");
  expect(freeId("iso", ["iso", "iso-2"])).toBe("iso-3");
});

it("calls a device by its own name, else by its profile's, else by its id", () => {
  const rig = { devices: [{ id: "grip", name: "Tansy" }, { id: "body", name: null }] } as unknown as Rig;
  const drawn = { drawing: { devices: [{ id: "body", name: "Mirrorless body" }] } } as unknown as Answer;
  expect(["grip", "body", "lens"].map((id) => deviceName(rig, id, drawn))).toEqual(["Tansy", "Mirrorless body", "lens"]);
});
