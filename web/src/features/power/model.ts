import type { Rig, Schemas } from "../../api/client";

export type Tree = Schemas["FeedTree"];
export type TreeBattery = Schemas["TreeBattery"];
export type TreeDevice = Schemas["TreeDevice"];
export type TreeLead = Schemas["TreeLead"];
export type When = "rule" | "start" | "held" | "end";

/** The moments to choose from: where nothing can be held at a stop, at the end of a charge everything is at its most. */
export const whens = (stalls: boolean): { when: When; name: string }[] => [
  { when: "rule", name: "As a rule" },
  { when: "start", name: "For a moment" },
  ...(stalls ? [{ when: "held" as const, name: "A motor held" }] : []),
  { when: "end", name: stalls ? "Held, at 20 %" : "At 20 %" },
];

type Energy = NonNullable<Rig["energy"]>;
export const ENERGY: { key: keyof Energy; name: string; unit: string; min: number; max: number; step: number; none?: string }[] = [
  { key: "temperature_c", name: "Temperature", unit: "°C", min: -40, max: 60, step: 1 },
  { key: "reserve_percent", name: "Kept back", unit: "%", min: 0, max: 90, step: 5, none: "usual" },
  { key: "margin_v", name: "To spare", unit: "V", min: 0, max: 5, step: 0.1 },
];

/** `rig` with something changed that is reckoned with where batteries are concerned. */
export function withEnergy(rig: Rig, change: Partial<Energy>): Rig {
  return { ...rig, energy: { ...rig.energy, ...change } as Energy };
}

/** A device at its place in the tree: how far from the battery, and in which row. */
export type Placed = { device: TreeDevice; lead: TreeLead | undefined; column: number; row: number; from: Placed | undefined };

/** The tree of one battery, laid out: what feeds something stands left of it, in the row of the first that it feeds. */
export function laidOut(tree: Tree, battery: string): Placed[] {
  const placed: Placed[] = [];
  let rows = 0;
  const lay = (id: string, column: number, from: Placed | undefined) => {
    const device = tree.devices.find((one) => one.device === id);
    if (!device) return;
    const lead = tree.leads.find((one) => one.join === device.join);
    const here: Placed = { device, lead, column, row: rows, from };
    placed.push(here);
    const below = tree.devices.filter((one) => one.giver === id);
    // The longest chain first, so that it lies in one row.
    const depth = (one: TreeDevice): number => 1 + Math.max(0, ...tree.devices.filter((next) => next.giver === one.device).map(depth));
    below.sort((one, other) => depth(other) - depth(one));
    below.forEach((one, number) => {
      if (number > 0) rows += 1;
      lay(one.device, column + 1, here);
    });
  };
  lay(battery, 0, undefined);
  return placed;
}

/** `14.2 V`, or nothing where nobody knows. */
export const volts = (value: number | null | undefined) => (value == null ? "" : `${value.toFixed(value < 10 ? 2 : 1)} V`);

/** `10 V`, `4.75 V`: what a label says. */
export const rated = (value: number) => `${Number(value.toFixed(2))} V`;

/** `1.4 h`, below an hour in minutes. */
export function hours(value: number | null | undefined): string {
  if (value == null) return "–";
  return value < 1 ? `${Math.round(60 * value)} min` : `${value.toFixed(1)} h`;
}

/** How thick a branch is drawn, of so many watts where the most are `most`. */
export const thickness = (watts: number, most: number) => 2 + 14 * Math.min(1, watts / Math.max(most, 1));

/** Steps for an axis up to `most`: few, and numbers that one says. */
export function ticks(least: number, most: number, wanted = 5): number[] {
  const rough = (most - least) / wanted;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 2.5, 5, 10].map((one) => one * power).find((one) => one >= rough) ?? 10 * power;
  const first = Math.ceil(least / step - 1e-9);
  const found: number[] = [];
  for (let number = first; number * step <= most + step * 1e-6; number += 1) found.push(Number((number * step).toPrecision(6)));
  return found;
}
