import type { Pin, Plan, Rig } from "../../api/client";

type Ends = Pick<Plan["joins"][number]["link"], "a" | "b">;

/** A pin that says: this cable between these ports; without `cable`, any that does it. */
export function cablePin({ a, b }: Ends, cable: string | null): Pin {
  return { kind: "cable", a: { device: a.device, port: a.endpoint }, b: { device: b.device, port: b.endpoint }, cable };
}

/** Whether two pins say the same of the same thing, so that the newer takes the place of the older. */
export function isAbout(one: Pin, other: Pin): boolean {
  if (one.kind === "cable" && other.kind === "cable") return JSON.stringify([one.a, one.b]) === JSON.stringify([other.a, other.b]);
  if (one.kind === "keep-out" && other.kind === "keep-out") return JSON.stringify(one.at) === JSON.stringify(other.at);
  if (one.kind === "off" && other.kind === "off") return one.device === other.device;
  return false;
}

export function withPin(rig: Rig, pin: Pin): Rig {
  return { ...rig, pins: [...(rig.pins ?? []).filter((old) => !isAbout(old, pin)), pin] };
}

export function withoutPin(rig: Rig, number: number): Rig {
  return { ...rig, pins: (rig.pins ?? []).filter((_, place) => place !== number) };
}
