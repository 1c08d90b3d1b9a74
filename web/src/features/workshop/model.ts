import type { Profile } from "../../api/client";

export type Port = NonNullable<Profile["ports"]>[number];
export type Role = NonNullable<Port["roles"]>[number];
export type Side = Port["side"];
export const SIDES: Side[] = ["left", "front", "right", "back", "top", "bottom"];

/** A lower-case id from a name, as the documents want it. */
export function idFrom(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 64) || "device"
  );
}

/** A copy of an archetype to work at, under a name and id of its own. */
export function copyOf(profile: Profile, taken: string[]): Profile {
  const name = `Our ${profile.name[0]?.toLowerCase() ?? ""}${profile.name.slice(1)}`;
  const stem = idFrom(`our ${profile.id}`);
  let id = stem;
  for (let number = 2; taken.includes(id); number += 1) id = `${stem}-${number}`;
  return { ...profile, id, name };
}

/** `draft` with one port more on a side. */
export function withNewPort(draft: Profile, side: Side): Profile {
  const ports = draft.ports ?? [];
  const taken = ports.map((port) => port.id);
  let number = ports.length + 1;
  while (taken.includes(`port-${number}`)) number += 1;
  const port = {
    id: `port-${number}`,
    marking: `PORT ${number}`,
    place: `${side} side`,
    side,
    connector: "usb-c",
    roles: [],
  } as unknown as Port;
  return { ...draft, ports: [...ports, port] };
}

export function withPort(draft: Profile, id: string, change: Partial<Port>): Profile {
  return { ...draft, ports: (draft.ports ?? []).map((port) => (port.id === id ? { ...port, ...change } : port)) };
}

/** `draft` without a port, and without whatever went over it. */
export function withoutPort(draft: Profile, id: string): Profile {
  const free = (ref: string | null | undefined) => ref?.split("/")[0] !== id;
  return {
    ...draft,
    ports: (draft.ports ?? []).filter((port) => port.id !== id),
    accepts: (draft.accepts ?? []).filter((one) => free(one.over)),
    emits: (draft.emits ?? []).filter((one) => free(one.over)),
    relays: (draft.relays ?? []).filter((one) => free(one.over) && free(one.to)),
    makes: (draft.makes ?? []).filter((one) => free(one.over)),
    passes: (draft.passes ?? []).filter((one) => free(one.over) && free(one.to)),
    shows: (draft.shows ?? []).filter((one) => free(one.over)),
    exclusive: (draft.exclusive ?? []).filter((group) => group.every((ref) => free(ref))),
  };
}

/** A new role of a kind, filled in with the commonest. */
export function newRole(kind: Role["kind"]): Role {
  const roles = {
    control: { kind, protocol: "body-tether", medium: "usb-data", end: "device" },
    video: { kind, flow: "out", signal: "hdmi", formats: ["1080p50", "1080p25"] },
    power: { kind, flow: "in", min_v: 4.75, max_v: 5.25, max_a: 3 },
    bus: { kind, bus: "motor-bus" },
    seat: { kind, part: "holds" },
  };
  return roles[kind] as unknown as Role;
}

/** A role in words. */
export function roleWords(role: Role): string {
  switch (role.kind) {
    case "control":
      return `control, ${role.protocol}, ${role.end}`;
    case "video":
      return `picture ${role.flow}, ${role.signal}`;
    case "power":
      return `power ${role.flow}, ${role.min_v === role.max_v ? role.min_v : `${role.min_v} to ${role.max_v}`} V`;
    case "bus":
      return `motor bus ${role.bus}`;
    case "seat":
      return role.part === "holds" ? "holds a lens" : "sits on a body";
  }
}

/** The endpoints that a function can go over: `port` or `port/role`. */
export function refsOf(draft: Profile): string[] {
  const ends = [...(draft.ports ?? []), ...(draft.radios ?? [])];
  return ends.flatMap((end) => (end.roles ?? []).flatMap((role) => (role.kind === "control" ? [`${end.id}/${role.protocol}`] : [])));
}

/** A list with an item taken out if it is there and put in if it is not. */
export function toggled(list: readonly string[], item: string): string[] {
  return list.includes(item) ? list.filter((one) => one !== item) : [...list, item];
}
