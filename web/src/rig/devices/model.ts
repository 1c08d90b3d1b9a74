import type { Kit, Rig, RigPromise } from "../../api/client";
import { freeId } from "../model";

export type Device = Rig["devices"][number];

/** The stages that a device can sit on, from the camera outwards. */
export const STAGE_CHOICES = [
  { value: "tilt-cage", label: "tilt cage" },
  { value: "roll-arm", label: "roll arm" },
  { value: "pan-base", label: "pan base" },
  { value: "handles", label: "handles" },
  { value: "off-gimbal", label: "off the gimbal" },
];

/** The letters that a camera can have. */
export const LETTERS = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"];

/** `rig` with so many cables of a type in its bag; a type stays listed at nought so that it can come back. */
export function withCables(rig: Rig, cable: string, count: number): Rig {
  const clamped = Math.max(0, Math.min(99, count));
  const known = rig.bag.some((item) => item.cable === cable);
  const bag = known
    ? rig.bag.map((item) => (item.cable === cable ? { ...item, count: clamped } : item))
    : [...rig.bag, { cable, count: clamped }];
  return { ...rig, bag };
}

export type Piece = { profile: string; tags?: readonly string[]; firmware?: string | null; licences?: readonly string[] };

/** `rig` with one device more; of a piece from the kit, its firmware, licences and a tag that is not in the rig yet are known. */
export function withDevice(rig: Rig, { profile, tags = [], firmware = null, licences = [] }: Piece): Rig {
  const id = freeId(
    profile.slice(0, 60),
    rig.devices.map((device) => device.id),
  );
  const taken = new Set(rig.devices.map((device) => device.tag));
  const tag = tags.find((one) => !taken.has(one)) ?? null;
  const device = {
    id,
    profile,
    name: null,
    stage: null,
    tag,
    firmware,
    licences: [...licences],
    mode: null,
    settings: {},
    charge_percent: null,
    spare_batteries: null,
    distance_m: null,
    marks_mm: {},
    note: null,
  };
  return { ...rig, devices: [...rig.devices, device] };
}

/** `rig` with the cables of a kit in its bag, in place of what was there. */
export function withKit(rig: Rig, kit: Kit): Rig {
  return { ...rig, bag: (kit.cables ?? []).map((one) => ({ cable: one.cable, count: Math.min(99, one.count ?? 1) })) };
}

/** `rig` without a device, and without the promises, pins and recipes that name it. */
export function withoutDevice(rig: Rig, id: string): Rig {
  const names = (promise: Exclude<RigPromise, { kind: "power" }>) => [
    promise.at.device,
    promise.kind === "control" ? promise.to : promise.of,
  ];
  const promises = rig.promises.filter((promise) => promise.kind === "power" || !names(promise).includes(id));
  const left = new Set(promises.map((promise) => promise.id));
  const pins = (rig.pins ?? []).filter((pin) => {
    if (pin.kind === "cable") return pin.a.device !== id && pin.b.device !== id;
    if (pin.kind === "keep-out") return pin.at.device !== id;
    if (pin.kind === "off") return pin.device !== id;
    return left.has(pin.promise) && !pin.over.some((join) => join.split("--").some((end) => end.split(".")[0] === id));
  });
  const recipes = (rig.recipes ?? []).filter((taken) => left.has(taken.promise) && !taken.devices.includes(id));
  const devices = rig.devices
    .filter((device) => device.id !== id)
    .map((device) => (device.sits?.on === id ? { ...device, sits: undefined } : device));
  return { ...rig, devices, promises, pins, recipes };
}

/** `rig` with what is known of one device changed; an empty name gives it its profile's. */
export function withDeviceChanged(rig: Rig, id: string, change: Partial<Device>): Rig {
  return { ...rig, devices: rig.devices.map((device) => (device.id === id ? { ...device, ...change } : device)) };
}

/** A device whose setting is known to stand at a value; nothing: as from the factory, as far as anybody knows. */
export function withSetting(device: Device, setting: string, value: string | null): Partial<Device> {
  const others = Object.entries(device.settings ?? {}).filter(([key]) => key !== setting);
  return { settings: Object.fromEntries(value === null ? others : [...others, [setting, value]]) };
}
