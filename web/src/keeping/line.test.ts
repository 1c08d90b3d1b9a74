import { beforeEach, expect, it, vi } from "vitest";

import { agoS, inLine, leaveLine, listenToLine, putInLine } from "./line";

/** As much of a browser's storage as is asked of it: its keys are its own properties. */
class Storage {
  [key: string]: unknown;
  getItem(key: string) {
    return this[key] ?? null;
  }
  setItem(key: string, value: string) {
    this[key] = value;
  }
  removeItem(key: string) {
    delete this[key];
  }
}
vi.stubGlobal("localStorage", new Storage());
vi.stubGlobal("window", { addEventListener: () => undefined, removeEventListener: () => undefined });

const done = (subject: string) => ({ what: "done", subject });

beforeEach(() => {
  leaveLine("rig/a", inLine("rig/a"));
  leaveLine("rig/b", inLine("rig/b"));
});

it("keeps what was done in its order, each with an id of its own, and about each thing apart", () => {
  putInLine("rig/a", [done("wake:body")], 2);
  putInLine("rig/a", [done("wake:lens"), done("wake:grip")], 1);
  putInLine("rig/b", [done("wake:body")], 3);
  expect(inLine("rig/a").map((one) => one.at)).toEqual([1, 1, 2]);
  expect(new Set(inLine("rig/a").map((one) => one.uid)).size).toBe(3);
  for (const { uid } of inLine("rig/a")) expect(uid).toMatch(/^[A-Za-z0-9-]{8,64}$/);
  expect(inLine("rig/b").map((one) => one.subject)).toEqual(["wake:body"]);
});

it("lets go of what has arrived, and of nothing else", () => {
  putInLine("rig/a", [done("wake:body"), done("wake:lens")], 1);
  const [first] = inLine("rig/a");
  leaveLine("rig/a", [first!]);
  expect(inLine("rig/a")).toHaveLength(1);
  expect(inLine("rig/a")[0]!.uid).not.toBe(first!.uid);
});

it("gives the same array until something changes, and tells of it then", () => {
  const heard = vi.fn();
  const over = listenToLine(heard);
  expect(inLine("rig/a")).toBe(inLine("rig/a"));
  putInLine("rig/a", [done("wake:body")]);
  expect(heard).toHaveBeenCalledTimes(1);
  over();
});

it("keeps what the browser has no room for as long as the page is open", () => {
  const full = vi.spyOn(localStorage, "setItem").mockImplementation(() => {
    throw new Error("full");
  });
  expect(putInLine("rig/a", [done("wake:body")])).toBe(false);
  full.mockRestore();
  expect(inLine("rig/a").map((one) => one.subject)).toEqual(["wake:body"]);
  leaveLine("rig/a", inLine("rig/a"));
  expect(inLine("rig/a")).toEqual([]);
  expect(putInLine("rig/a", [done("wake:lens")])).toBe(true);
});

it("passes over what it cannot read", () => {
  localStorage.setItem("isotact/line/rig/a/broken", "{");
  putInLine("rig/a", [done("wake:body")]);
  expect(inLine("rig/a").map((one) => one.subject)).toEqual(["wake:body"]);
  localStorage.removeItem("isotact/line/rig/a/broken");
});

it("tells how long ago something was done, whatever happens to the clock meanwhile", () => {
  putInLine("rig/a", [done("wake:body")]);
  const [here] = inLine("rig/a");
  const began = performance.now();
  expect(agoS(here!, 0, began + 5_000)).toBeCloseTo(5, 0);
  expect(agoS(here!, here!.at + 400e9, began + 5_000)).toBeCloseTo(5, 0);
});

it("takes the clock's word for what was done before the page was loaded, where that can be", () => {
  const earlier = { uid: "of-another-page", what: "done", subject: "wake:body", at: 1_000_000_000_000 };
  expect(agoS(earlier, earlier.at + 60_000)).toBe(60);
  expect(agoS(earlier, earlier.at - 60_000)).toBe(0);
  expect(agoS(earlier, earlier.at + 344_433_601_000)).toBe(0);
  expect(agoS(earlier, earlier.at + 8 * 24 * 3600 * 1000)).toBe(7 * 24 * 3600);
});
