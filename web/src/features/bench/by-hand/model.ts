import type { DeviceView, Schemas } from "../../../api/client";

export type AtBench = Schemas["AtBench"];
export type HandOffer = Schemas["HandOffer"];
export type InHand = Schemas["InHand"];
export type Told = Schemas["Told"];
export type Move = Schemas["ToDo"]["move"];
export type Act = HandOffer["act"];
export type End = { device: string; port: string; connector: string };

/** What is held in a hand: a cable, and in which port its first plug is by now, with the number of that end. */
export type Held = { cable: InHand; first?: End & { number: number }; keepOneOut: boolean };

/** Which end of a cable goes into a port: one that fits, or else the next that is free, which will not go in. */
export function endFor(cable: Pick<InHand, "ends">, connector: string, taken?: number): number {
  const free = cable.ends.map((_, index) => index + 1).filter((number) => number !== taken);
  return free.find((number) => cable.ends[number - 1] === connector) ?? free[0] ?? 1;
}

/** To put the second plug in: the act that joins the two ends. */
export function plugged(held: Held, second: End): Move | undefined {
  const { first, cable } = held;
  if (!first) return undefined;
  return {
    kind: "act",
    act: {
      kind: "plug",
      tag: cable.tag,
      a: { device: first.device, endpoint: first.port },
      b: { device: second.device, endpoint: second.port },
      end_a: first.number,
      end_b: endFor(cable, second.connector, first.number),
      direct: false,
      held: held.keepOneOut,
    },
  };
}

export const layOut = (cable: InHand): Move => ({
  kind: "act",
  act: { kind: "lay-out", tag: cable.tag, cable: cable.cable, adapters: cable.adapters },
});

/** Cables that could be taken in hand: flagged and ready first, then what the plan wants of the bag, then the rest of it. */
export function atHand(bench: Pick<AtBench, "lying" | "bag">): { lying: InHand[]; planned: InHand[]; others: InHand[] } {
  return {
    lying: bench.lying.filter((one) => one.left > 0),
    planned: bench.bag.filter((one) => one.planned),
    others: bench.bag.filter((one) => !one.planned),
  };
}

const GROUPS = ["switch", "control", "menu", "battery", "card", "radio", "motor", "mount", "look"] as const;
export type Group = (typeof GROUPS)[number];
export const GROUP_NAMES: Record<Group, string> = {
  switch: "Switch",
  control: "Buttons and wheels",
  menu: "Menus",
  battery: "Battery",
  card: "Card",
  radio: "Radio",
  motor: "Motor",
  mount: "In its place",
  look: "Look",
};

/** What can be tried at a device but for its ports, by where on it that is. */
export function grouped(offers: readonly HandOffer[]): [Group, HandOffer[]][] {
  return GROUPS.map((group): [Group, HandOffer[]] => [group, offers.filter((one) => one.where === group)]).filter(
    ([, those]) => those.length > 0,
  );
}

/** Words of an offer without the device's own name, which stands above it. */
export const short = (says: string, name: string) => {
  const rest = says.startsWith(`${name}: `) ? says.slice(name.length + 2) : says.replace(` ${name} `, " it ").replace(` of ${name}`, "");
  return rest.charAt(0).toUpperCase() + rest.slice(1);
};

/** What is different in how a device looks: whoever did something sees where it showed. */
export const looksDifferent = (before: DeviceView | undefined, now: DeviceView) =>
  before !== undefined && JSON.stringify(before) !== JSON.stringify(now);

/** Which devices changed between two states of a bench. */
export function changed(before: AtBench | undefined, now: AtBench): string[] {
  const old = new Map(before?.devices.map((one) => [one.device, one]));
  return now.devices.filter((one) => looksDifferent(old.get(one.device), one)).map((one) => one.device);
}

/** A running clock as it stands on a slate: minutes, seconds, hundredths. */
export function slate(ms: number): string {
  const whole = Math.max(0, Math.floor(ms / 10));
  const [minutes, rest] = [Math.floor(whole / 6000), whole % 6000];
  const two = (value: number) => String(value).padStart(2, "0");
  return `${two(minutes)}:${two(Math.floor(rest / 100))}.${two(rest % 100)}`;
}

/** Seconds that something costs, as people say them. */
export const costs = (seconds: number) => {
  const size = Math.abs(seconds) < 90 ? `${Math.round(Math.abs(seconds))} s` : `${Math.round(Math.abs(seconds) / 60)} min`;
  if (Math.round(seconds) === 0) return "costs nothing";
  return seconds > 0 ? `costs ${size}` : `saves ${size}`;
};
