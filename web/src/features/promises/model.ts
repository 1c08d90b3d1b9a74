import type { Catalogue, Kit, Rig, RigPromise } from "../../api/client";
import { freeId } from "../../rig";

export type SurfaceChoice = { device: string; surface: string; name: string; functions: string[]; shows: boolean };

/** Every surface in the rig, under the crew's name for its device. */
export function surfacesOf(rig: Rig, catalogue: Catalogue | undefined): SurfaceChoice[] {
  return rig.devices.flatMap((device) => {
    const profile = catalogue?.profiles.find((one) => one.id === device.profile);
    return (profile?.surfaces ?? []).map((surface) => ({
      device: device.id,
      surface: surface.id,
      name: `${device.name ?? profile?.name ?? device.id}: ${surface.name}`,
      functions: surface.functions,
      shows: surface.shows,
    }));
  });
}

/** A new promise of a kind, filled in with the first that could be meant; undefined when the rig has no surface for it. */
export function newPromise(kind: RigPromise["kind"], rig: Rig, surfaces: SurfaceChoice[], who: string): RigPromise | undefined {
  const taken = rig.promises.map((promise) => promise.id);
  if (kind === "power") return { kind, id: freeId("hours", taken), who, hours_h: 2, weight: 3 };
  if (kind === "picture") {
    const at = surfaces.find((one) => one.shows);
    if (!at) return undefined;
    return { kind, id: freeId("picture", taken), who, at: place(at), within_ms: null, look: "any", weight: 3 };
  }
  const promised = new Set(rig.promises.flatMap((p) => (p.kind === "control" ? [key(p.at, p.function)] : [])));
  const free = surfaces.flatMap((at) => at.functions.map((name) => ({ at, name })));
  const next = free.find(({ at, name }) => !promised.has(key(at, name))) ?? free[0];
  if (!next) return undefined;
  return { kind, id: freeId(next.name, taken), who, function: next.name, at: place(next.at), to: null, weight: 3 };
}

const place = ({ device, surface }: { device: string; surface: string }) => ({ device, surface });
const key = (at: { device: string; surface: string }, name: string) => `${at.device}/${at.surface}/${name}`;

/** `rig` with one promise changed. */
export function withPromise(rig: Rig, id: string, change: Partial<RigPromise>): Rig {
  const promises = rig.promises.map((promise) => (promise.id === id ? ({ ...promise, ...change } as RigPromise) : promise));
  return { ...rig, promises };
}

/** The promises of a rig by the person they were made to, in the order of the rig. */
export function byPerson(rig: Rig): [string, RigPromise[]][] {
  const groups = new Map<string, RigPromise[]>();
  for (const promise of rig.promises) groups.set(promise.who, [...(groups.get(promise.who) ?? []), promise]);
  return [...groups];
}

/** `rig` with everything that was promised to one person promised to another. */
export function withPersonRenamed(rig: Rig, from: string, to: string): Rig {
  return { ...rig, promises: rig.promises.map((promise) => (promise.who === from ? { ...promise, who: to } : promise)) };
}

/** How much a promise matters, as people say it. The planner counts the number. */
export const WEIGHTS = [
  { value: "1", label: "extra" },
  { value: "2", label: "wanted" },
  { value: "3", label: "needed" },
  { value: "4", label: "vital" },
  { value: "5", label: "must" },
  { value: "9", label: "first" },
];

/** The choices of weight, with the promise's own among them whatever it is. */
export function weightsFor(weight: number): { value: string; label: string }[] {
  const own = String(weight);
  return WEIGHTS.some((one) => one.value === own) ? WEIGHTS : [...WEIGHTS, { value: own, label: `weight ${own}` }];
}

/** `rig` with so many cables of a type in its bag; a type stays listed at nought so that it can come back. */
export function withCables(rig: Rig, cable: string, count: number): Rig {
  const clamped = Math.max(0, Math.min(99, count));
  const known = rig.bag.some((item) => item.cable === cable);
  const bag = known
    ? rig.bag.map((item) => (item.cable === cable ? { ...item, count: clamped } : item))
    : [...rig.bag, { cable, count: clamped }];
  return { ...rig, bag };
}

type Piece = { profile: string; tags?: readonly string[]; firmware?: string | null; licences?: readonly string[] };

/** `rig` with one device more; of a piece from the kit, its firmware, licences and a tag that is not in the rig yet are known. */
export function withDevice(rig: Rig, { profile, tags = [], firmware = null, licences = [] }: Piece): Rig {
  const id = freeId(profile.slice(0, 60), rig.devices.map((device) => device.id));
  const taken = new Set(rig.devices.map((device) => device.tag));
  const tag = tags.find((one) => !taken.has(one)) ?? null;
  const device = { id, profile, name: null, stage: null, tag, firmware, licences: [...licences], mode: null, settings: {}, note: null };
  return { ...rig, devices: [...rig.devices, device] };
}

/** `rig` with the cables of a kit in its bag, in place of what was there. */
export function withKit(rig: Rig, kit: Kit): Rig {
  return { ...rig, bag: (kit.cables ?? []).map((one) => ({ cable: one.cable, count: Math.min(99, one.count ?? 1) })) };
}

/** `rig` without a device, and without the promises and pins that name it. */
export function withoutDevice(rig: Rig, id: string): Rig {
  const promises = rig.promises.filter((promise) => promise.kind === "power" || (promise.at.device !== id && !(promise.kind === "control" && promise.to === id)));
  const left = new Set(promises.map((promise) => promise.id));
  const pins = (rig.pins ?? []).filter((pin) => {
    if (pin.kind === "cable") return pin.a.device !== id && pin.b.device !== id;
    if (pin.kind === "keep-out") return pin.at.device !== id;
    if (pin.kind === "off") return pin.device !== id;
    return left.has(pin.promise) && !pin.over.some((join) => join.split("--").some((end) => end.split(".")[0] === id));
  });
  return { ...rig, devices: rig.devices.filter((device) => device.id !== id), promises, pins };
}

/** `rig` with a device called otherwise; an empty name gives it its profile's. */
export function withDeviceNamed(rig: Rig, id: string, name: string): Rig {
  return { ...rig, devices: rig.devices.map((device) => (device.id === id ? { ...device, name: name.trim() || null } : device)) };
}
