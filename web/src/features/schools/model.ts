import type { Advice, Rig } from "../../api/client";

type Shot = NonNullable<Rig["shot"]>;
export const SHOT: {
  key: Exclude<keyof Shot, "marks">;
  name: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  none?: string;
}[] = [
  { key: "far_m", name: "Walk from", unit: "m", min: 0.2, max: 200, step: 0.1 },
  { key: "near_m", name: "to", unit: "m", min: 0.2, max: 200, step: 0.1 },
  { key: "walk_s", name: "in", unit: "s", min: 0.5, max: 120, step: 0.5 },
  { key: "focal_mm", name: "Lens", unit: "mm", min: 8, max: 600, step: 1 },
  { key: "stop", name: "at f/", unit: "", min: 0.7, max: 32, step: 0.1 },
  { key: "screens_m", name: "Screens away", unit: "m", min: 0.5, max: 2000, step: 1, none: "beside" },
  { key: "range_m", name: "Furthest radio", unit: "m", min: 1, max: 2000, step: 5 },
];

/** Whether the crew has fixed this choice: wake and balance always stand at something, these may be left open. */
export function isFixed(advice: Advice): boolean {
  return advice.options.some((option) => option.id === advice.fixed);
}

/** `rig` with a school fixed, or left open again where that is possible. */
export function withSchool(rig: Rig, kind: Advice["kind"], school: string): Rig {
  return { ...rig, schools: { ...rig.schools, [kind]: school } as Rig["schools"] };
}

/** `rig` with one figure of its shot changed. */
export function withShot(rig: Rig, change: Partial<Shot>): Rig {
  return { ...rig, shot: { ...rig.shot, ...change } as Shot };
}
