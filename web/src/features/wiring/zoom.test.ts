import { expect, it } from "vitest";

import type { Answer } from "../../api/client";
import { changedLinks } from "./model";
import { held, STEPS, zoomedBy } from "./zoom";

it("zooms between all of it and the largest", () => {
  expect(zoomedBy(1, 1.5)).toBe(1.5);
  expect(zoomedBy(1, 0.2)).toBe(1);
  expect(zoomedBy(5, 10)).toBe(STEPS.most);
});

it("keeps what lies under the fingers there", () => {
  expect(held({ scrollLeft: 0, scrollTop: 0 }, { x: 100, y: 50 }, 2)).toEqual({ left: 100, top: 50 });
  expect(held({ scrollLeft: 100, scrollTop: 50 }, { x: 100, y: 50 }, 0.5)).toEqual({ left: 0, top: 0 });
});

const end = (device: string) => ({ device, endpoint: "port" });
const join = (id: string, a: string, b: string) => ({ link: { id, a: end(a), b: end(b) } });
const plan = { joins: [join("one", "body", "link"), join("other", "body", "grip")] };

it("marks what a rig that stands built lacks yet, whichever end is named first", () => {
  const since_built = { steps: [{ act: { kind: "plug", a: end("grip"), b: end("body") } }, { act: { kind: "wake", device: "body" } }] };
  expect([...changedLinks({ plan, since_built } as unknown as Answer)]).toEqual(["other"]);
  expect(changedLinks({ plan, since_built: null } as unknown as Answer).size).toBe(0);
});
