import { expect, it } from "vitest";

import { counted } from "./counted";

it("one is said as one", () => {
  expect([0, 1, 2].map((many) => counted(many, "cable"))).toEqual(["0 cables", "1 cable", "2 cables"]);
});
