import { expect, it } from "vitest";

import { pressed } from "./keys";
import { matching } from "./palette";

const key = (name: string, more: Partial<KeyboardEvent> = {}) =>
  pressed({ key: name, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });

it("names key presses as shortcuts write them", () => {
  expect(key("j")).toBe("j");
  expect(key(" ")).toBe("space");
  expect(key("?", { shiftKey: true })).toBe("?");
  expect(key("z", { ctrlKey: true })).toBe("ctrl+z");
  expect(key("Z", { ctrlKey: true, shiftKey: true })).toBe("ctrl+shift+z");
  expect(key("k", { metaKey: true })).toBe("ctrl+k");
});

it("finds commands by every word typed", () => {
  const commands = ["Go to Wiring", "Go to Bench", "Undo"].map((name) => ({ id: name, name, run: () => {} }));
  expect(matching(commands, "go be").map((one) => one.name)).toEqual(["Go to Bench"]);
  expect(matching(commands, "  ")).toHaveLength(3);
});
