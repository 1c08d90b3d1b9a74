import type { Catalogue, Rig } from "../../api/client";
import { bears, counted } from "../../ui";

/** What nobody has looked at yet on a device, in the order in which one would look. */
export function notLooked(device: Rig["devices"][number], profile: Catalogue["profiles"][number] | undefined): string[] {
  if (!profile) return [];
  const open = profile.settings.filter((setting) => !(setting.id in (device.settings ?? {}))).length;
  return [
    profile.firmware && !device.firmware ? "firmware" : "",
    profile.modes && !device.mode ? "mode" : "",
    open > 0 ? counted(open, "setting") : "",
  ].filter(Boolean);
}

type Cable = Catalogue["cables"][number];

/** The cable types that bear every word in their name or on their ends, the shortest first. */
export function findCables(cables: readonly Cable[], words: string): Cable[] {
  const fits = bears(words);
  return cables
    .filter((cable) => fits([cable.name, cable.family, cable.kind, ...cable.ends].join(" ")))
    .sort((one, other) => one.length_mm - other.length_mm);
}

/** What each device of a rig needs to be fixed, in words; those that need nothing left out. */
export function fixings(
  rig: Rig,
  profiles: readonly Pick<Catalogue["profiles"][number], "id" | "fixed_by">[],
): { id: string; words: string[] }[] {
  return rig.devices
    .map((device) => ({ id: device.id, words: profiles.find((one) => one.id === device.profile)?.fixed_by ?? [] }))
    .filter((one) => one.words.length > 0);
}

type Parts = NonNullable<Rig["parts"]>;

/** `rig` with these small parts in its bag; null: nobody said. */
export const withParts = (rig: Rig, parts: Parts | null): Rig => ({ ...rig, parts });
