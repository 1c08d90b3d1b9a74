import type { Catalogue, Kit, KitPreview } from "../../api/client";

export type Row = {
  key: string;
  kind: "device" | "cable";
  item: string;
  name: string;
  family: string;
  count: number;
  tags: readonly string[];
  firmware: string | null;
  licences: readonly string[];
  note: string | null;
  index: number;
};

/** The rows of a kit: devices first, both by name. */
export function rowsOf(kit: Kit, catalogue: Catalogue | undefined): Row[] {
  const profiles = new Map(catalogue?.profiles.map((one) => [one.id, one]));
  const cables = new Map(catalogue?.cables.map((one) => [one.id, one]));
  const devices = (kit.devices ?? []).map((one, index): Row => ({
    key: `device ${index}`,
    kind: "device",
    item: one.profile,
    name: profiles.get(one.profile)?.name ?? one.profile,
    family: "mount",
    count: one.count ?? 1,
    tags: one.tags ?? [],
    firmware: one.firmware ?? null,
    licences: one.licences ?? [],
    note: one.note ?? null,
    index,
  }));
  const leads = (kit.cables ?? []).map((one, index): Row => ({
    key: `cable ${index}`,
    kind: "cable",
    item: one.cable,
    name: cables.get(one.cable)?.name ?? one.cable,
    family: cables.get(one.cable)?.family ?? "mount",
    count: one.count ?? 1,
    tags: one.tags ?? [],
    firmware: null,
    licences: [],
    note: one.note ?? null,
    index,
  }));
  const byName = (one: Row, other: Row) => one.name.localeCompare(other.name);
  return [...devices.sort(byName), ...leads.sort(byName)];
}

export type Change = Partial<Pick<Row, "count" | "firmware" | "note"> & { tags: string[]; licences: string[] }>;

/** `kit` with one row changed. */
export function withRow(kit: Kit, row: Row, change: Change): Kit {
  if (row.kind === "device")
    return { ...kit, devices: (kit.devices ?? []).map((one, index) => (index === row.index ? { ...one, ...change } : one)) };
  const rest = Object.fromEntries(Object.entries(change).filter(([key]) => key !== "firmware" && key !== "licences"));
  return { ...kit, cables: (kit.cables ?? []).map((one, index) => (index === row.index ? { ...one, ...rest } : one)) };
}

/** `kit` without one row. */
export function withoutRow(kit: Kit, row: Row): Kit {
  if (row.kind === "device") return { ...kit, devices: (kit.devices ?? []).filter((_, index) => index !== row.index) };
  return { ...kit, cables: (kit.cables ?? []).filter((_, index) => index !== row.index) };
}

/** `kit` with one more of an item that it does not list yet. */
export function withItem(kit: Kit, kind: Row["kind"], item: string): Kit {
  if (kind === "device")
    return { ...kit, devices: [...(kit.devices ?? []), { profile: item, count: 1, tags: [], firmware: null, licences: [], note: null }] };
  return { ...kit, cables: [...(kit.cables ?? []), { cable: item, count: 1, tags: [], note: null }] };
}

/** Words set apart by commas or semicolons. */
export function several(text: string): string[] {
  return text
    .split(/[;,]/)
    .map((part) => part.trim())
    .filter(Boolean);
}

/** How many lines of a list are right, taken on likeness, and wrong. */
export function tally(preview: KitPreview): { right: number; likely: number; wrong: number } {
  const wrong = preview.lines.filter((line) => (line.problems ?? []).length > 0).length;
  const likely = preview.lines.filter((line) => (line.problems ?? []).length === 0 && !line.sure).length;
  return { right: preview.lines.length - wrong - likely, likely, wrong };
}
