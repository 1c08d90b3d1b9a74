import type { Catalogue, Rig } from "../../api/client";

/** What nobody has looked at yet on a device, in the order in which one would look. */
export function notLooked(device: Rig["devices"][number], profile: Catalogue["profiles"][number] | undefined): string[] {
  if (!profile) return [];
  const open = profile.settings.filter((setting) => !(setting.id in (device.settings ?? {}))).length;
  return [
    profile.firmware && !device.firmware ? "firmware" : "",
    profile.modes && !device.mode ? "mode" : "",
    open > 0 ? `${open} ${open === 1 ? "setting" : "settings"}` : "",
  ].filter(Boolean);
}
