/** What differs between two versions of a document, list by list. */
export type Difference = { what: string; mine: string[]; theirs: string[]; changed: Changed[] };

/** One thing that both have, and how it stands in each: only the fields in which it differs. */
export type Changed = { name: string; mine: string; theirs: string };

type Item = Record<string, unknown>;
type Lists = Record<string, { says: string; key: (item: Item) => string; name: (item: Item) => string }>;

const text = (value: unknown) => (typeof value === "string" || typeof value === "number" ? String(value) : "");
const plain = (says: string, key: string, ...names: string[]): Lists[string] => ({
  says,
  key: (item) => text(item[key]),
  name: (item) => [...names, key].map((name) => text(item[name])).find(Boolean) ?? "",
});

/** What the trade writes in capitals; all else is said as its id reads. */
const CAPITALS: Record<string, string> = { iso: "ISO", nd: "ND" };
const said = (id: string) => CAPITALS[id] ?? id.replaceAll("-", " ");

const LISTS: Lists = {
  devices: {
    says: "Devices",
    key: (item) => text(item.id) || [item.profile, item.firmware, item.note].map(text).join(" "),
    name: (item) => text(item.name) || text(item.id) || text(item.profile),
  },
  promises: {
    ...plain("Promises", "id"),
    name: (item) => [text(item.who), said(text(item.function) || text(item.kind))].filter(Boolean).join(": "),
  },
  bag: plain("Bag", "cable"),
  cables: plain("Cables", "cable"),
  pins: { says: "Pins", key: (item) => JSON.stringify(item), name: (item) => text(item.kind) },
};

/** Fields that say nothing to a person: given by the machine, or told by the lists. */
const SILENT = new Set(["format", "version", "id", "flags", "built", ...Object.keys(LISTS)]);
const NAMES: Record<string, string> = {
  name: "Name",
  camera: "Camera letter",
  production: "Job",
  days: "Days",
  schools: "Schools",
  shot: "Shot",
  channels: "Channels",
  note: "Note",
};

/** Every list and field in which two versions differ. */
export function differences(mine: object, theirs: object): Difference[] {
  const [ours, others] = [mine as Item, theirs as Item];
  const lists = Object.entries(LISTS).map(([field, list]) => compared(list, ours[field], others[field]));
  const fields = [...new Set([...Object.keys(ours), ...Object.keys(others)])]
    .filter((field) => !SILENT.has(field) && !same(ours[field], others[field]))
    .map((field) => ({ what: NAMES[field] ?? field, mine: [shown(ours[field])], theirs: [shown(others[field])], changed: [] }));
  return [...lists, ...fields].filter((one) => one.mine.length + one.theirs.length + one.changed.length > 0);
}

function compared(list: Lists[string], mine: unknown, theirs: unknown): Difference {
  const [ours, others] = [keyed(list, mine), keyed(list, theirs)];
  const only = (some: Map<string, Item>, besides: Map<string, Item>) =>
    [...some].filter(([key]) => !besides.has(key)).map(([, item]) => list.name(item));
  const changed = [...ours]
    .filter(([key, item]) => others.has(key) && !same(item, others.get(key)))
    .map(([key, item]) => howOf(list.name(item), item, others.get(key) ?? {}));
  return { what: list.says, mine: only(ours, others), theirs: only(others, ours), changed };
}

function howOf(name: string, mine: Item, theirs: Item): Changed {
  const fields = [...new Set([...Object.keys(mine), ...Object.keys(theirs)])].filter((field) => !same(mine[field], theirs[field]));
  const of = (item: Item) =>
    fields.map((field) => `${field.replace(/_(h|m|mm|ms|w|wh|percent)$/, "").replaceAll("_", " ")} ${shown(item[field])}`).join(", ");
  return { name, mine: of(mine), theirs: of(theirs) };
}

const keyed = (list: Lists[string], items: unknown) => new Map(((items as Item[] | undefined) ?? []).map((item) => [list.key(item), item]));

const same = (one: unknown, other: unknown) => JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

function shown(value: unknown): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (Array.isArray(value)) return value.map(shown).join(", ") || "nothing";
  if (typeof value === "object")
    return Object.entries(value)
      .filter(([, one]) => one !== null)
      .map(([key, one]) => `${key} ${shown(one)}`)
      .join(", ");
  return String(value);
}
