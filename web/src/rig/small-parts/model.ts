import type { Rig } from "../../api/client";
import { freeId } from "../model";

export type PartItem = NonNullable<Rig["parts"]>[number];
export type SmallPart = NonNullable<PartItem["made"]>;
export type PartRow = { part: string; name: string; count: number; made: SmallPart | null };

/** What can lie in a bag of small parts: those that are known, then the crew's own. */
export function partRows(parts: readonly PartItem[], known: Readonly<Record<string, string>>): PartRow[] {
  const counts = new Map(parts.map((one) => [one.part, one.count]));
  return [
    ...Object.entries(known).map(([part, name]) => ({ part, name, count: counts.get(part) ?? 0, made: null })),
    ...parts.flatMap(({ part, count, made }) => (made ? [{ part, name: made.name, count, made }] : [])),
  ];
}

/** So many of one part; one of the crew's own stays on the list when there is none of it. */
export function withCount(parts: readonly PartItem[], row: PartRow, count: number): PartItem[] {
  const others = parts.filter((one) => one.part !== row.part);
  if (row.made) return [...others, { part: row.part, count, made: row.made }];
  return count > 0 ? [...others, { part: row.part, count }] : others;
}

/** One of a part that no list has. */
export function withOwn(parts: readonly PartItem[], made: SmallPart, known: Readonly<Record<string, string>>): PartItem[] {
  const stem = `own-${made.kind}`;
  const part = freeId(stem, [...Object.keys(known), ...parts.map((one) => one.part)]);
  return [...parts, { part, count: 1, made }];
}

/** What still has to be said of a part before it can be put in; null where nothing is. */
export function lacking(made: Partial<SmallPart>): string | null {
  if (!made.name?.trim()) return "Say what it is called.";
  if (!made.size?.trim()) return "Say its size, as the thing it holds asks for it: 1/4-20, 15 mm.";
  if (made.kind === "screw" && made.length_mm == null) return "Say how far the screw stands out.";
  return made.mass_g == null ? "Say what it weighs." : null;
}
