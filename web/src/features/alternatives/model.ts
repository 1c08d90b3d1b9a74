import type { Alternative, Figures, Pin, Rig } from "../../api/client";

type Row = { name: string; of: (figures: Figures) => number; unit: string; digits: number };

/** What plans are compared by. Less is better in all of them. */
export const ROWS: Row[] = [
  { name: "Cables", of: (one) => one.cables, unit: "", digits: 0 },
  { name: "Axes crossed", of: (one) => one.axes, unit: "", digits: 0 },
  { name: "Worst delay", of: (one) => one.worst_delay_ms, unit: "ms", digits: 0 },
  { name: "On the gimbal", of: (one) => one.mass_g, unit: "g", digits: 0 },
  { name: "Power", of: (one) => one.load_w, unit: "W", digits: 1 },
  { name: "To set or answer", of: (one) => one.workarounds, unit: "", digits: 0 },
  { name: "Points of work", of: (one) => one.points, unit: "", digits: 0 },
];

/** Whether `figures` is the best of `all` in one row, where they differ at all. */
export function isBest(row: Row, figures: Figures, all: Figures[]): boolean {
  const values = all.map(row.of);
  return Math.min(...values) !== Math.max(...values) && row.of(figures) === Math.min(...values);
}

/** `rig` with the ways of some promises pinned, in place of what was pinned for them. */
export function withWays(rig: Rig, over: Record<string, readonly string[]>): Rig {
  const others = (rig.pins ?? []).filter((pin) => pin.kind !== "way" || !(pin.promise in over));
  const pins: Pin[] = Object.entries(over)
    .filter(([, joins]) => joins.length > 0)
    .map(([promise, joins]) => ({ kind: "way", promise, over: [...joins] }));
  return { ...rig, pins: [...others, ...pins] };
}

/** The ways of `other` that `first` does not take: what has to be pinned to have the other plan. */
export function newWays(first: Alternative, other: Alternative): Record<string, readonly string[]> {
  return Object.fromEntries(Object.entries(other.over).filter(([promise, joins]) => (first.over[promise] ?? []).join() !== joins.join()));
}
