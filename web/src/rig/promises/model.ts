import type { Catalogue, Rig, RigPromise } from "../../api/client";
import { freeId } from "../model";

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

/** The bodies of a rig, under the crew's names for them. */
export function camerasOf(rig: Rig, catalogue: Catalogue | undefined): { id: string; name: string }[] {
  return rig.devices.flatMap((device) => {
    const profile = catalogue?.profiles.find((one) => one.id === device.profile);
    return profile?.like === "camera-body" ? [{ id: device.id, name: device.name ?? profile.name }] : [];
  });
}

/** `rig` with promises added, each under an id that is free. */
export function withPromises(rig: Rig, more: readonly RigPromise[]): Rig {
  return more.reduce((now, one) => {
    const id = freeId(
      one.id,
      now.promises.map((promise) => promise.id),
    );
    return { ...now, promises: [...now.promises, { ...one, id }] };
  }, rig);
}

/** The promise of `rig` that asks for the same as `wanted`, for the same person; hours are never the same. */
export function sameAs(rig: Rig, wanted: RigPromise | undefined): RigPromise | undefined {
  if (!wanted || wanted.kind === "power") return undefined;
  const asks = (one: Exclude<RigPromise, { kind: "power" }>) =>
    [one.who, one.at.device, one.at.surface, one.kind === "control" ? one.function : (one.of ?? "")].join("/");
  return rig.promises.find((one) => one.kind !== "power" && asks(one) === asks(wanted));
}

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
