import { beforeEach, expect, it, vi } from "vitest";

import { inLine, leaveLine, listenToLine, putInLine } from "./line";

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
