import type { Answer, Rig } from "../api/client";

type Flags = Answer["flags"];

/** The rig's document once it stands as planned: what is plugged keeps its flag, and changes to it have a price. */
export function asBuilt(rig: Rig, flags: Flags): Rig {
  const built = { ...rig, built: null, flags: flags.map((flag) => ({ ...flag, plugged: true })) };
  return { ...built, built };
}

/** The rig back in its cases: the flags stay where they belong, nothing is plugged. */
export function inItsCases(rig: Rig): Rig {
  return { ...rig, built: null, flags: (rig.flags ?? []).map((flag) => ({ ...flag, plugged: false })) };
}
