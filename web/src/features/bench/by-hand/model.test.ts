import { expect, it } from "vitest";

import type { AtBench, HandOffer, InHand } from "./model";
import { atHand, changed, costs, endFor, grouped, plugged, short, slate } from "./model";

const cable = (tag: string, ends: string[], more: Partial<InHand> = {}): InHand => ({
  tag,
  cable: tag,
  name: tag,
  adapters: [],
  ends,
  left: 1,
  planned: false,
  ...more,
});
const offer = (where: string, says: string) => ({ where, says, part: "", act: {} }) as unknown as HandOffer;

it("takes the end that fits, and else one that will not go in", () => {
  const lead = cable("A1", ["hdmi-a", "hdmi-d"]);
  expect(endFor(lead, "hdmi-d")).toBe(2);
  expect(endFor(lead, "hdmi-a", 1)).toBe(2);
  expect(endFor(lead, "usb-c")).toBe(1);
});

it("joins both ends once the second plug has its port", () => {
  const held = { cable: cable("A1", ["hdmi-a", "hdmi-d"]), keepOneOut: false };
  const second = { device: "link", port: "in", connector: "hdmi-a" };
  expect(plugged(held, second)).toBeUndefined();
  const first = { device: "body", port: "hdmi", connector: "hdmi-d", number: 2 };
  expect(plugged({ ...held, first }, second)).toMatchObject({
    act: { kind: "plug", tag: "A1", a: { device: "body", endpoint: "hdmi" }, b: { device: "link", endpoint: "in" }, end_a: 2, end_b: 1 },
  });
});

it("lists what lies ready before what is in the bag, and not what is plugged", () => {
  const bench = {
    lying: [cable("A1", ["a", "b"]), cable("A2", ["a", "b"], { left: 0 }), cable("A3", ["a", "b", "c"], { left: 1 })],
    bag: [cable("A4", ["a", "b"], { planned: true }), cable("X1", ["a", "b"], { left: 3 })],
  };
  const { lying, planned, others } = atHand(bench);
  expect([lying, planned, others].map((those) => those.map(({ tag }) => tag))).toEqual([["A1", "A3"], ["A4"], ["X1"]]);
});

it("groups what can be tried by where it is done", () => {
  const offers = [offer("look", "Look it over"), offer("port", "Pull it"), offer("switch", "Switch it on")];
  expect(grouped(offers).map(([group]) => group)).toEqual(["switch", "look"]);
});

it("does not say the device's name again under its name", () => {
  expect(short("Brindle 2: Video mode", "Brindle 2")).toBe("Video mode");
  expect(short("Switch Brindle 2 on", "Brindle 2")).toBe("Switch it on");
});

it("tells which devices look different", () => {
  const state = (looks: Record<string, string>) =>
    ({ devices: Object.entries(looks).map(([device, is]) => ({ device, state: is })) }) as unknown as AtBench;
  expect(changed(state({ body: "off", grip: "off" }), state({ body: "off", grip: "awake" }))).toEqual(["grip"]);
  expect(changed(undefined, state({ body: "off" }))).toEqual([]);
});

it("runs a clock to the hundredth, and says what something costs", () => {
  expect(slate(61_234)).toBe("01:01.23");
  expect(slate(-5)).toBe("00:00.00");
  expect([costs(0.3), costs(35), costs(-240)]).toEqual(["costs nothing", "costs 35 s", "saves 4 min"]);
});
