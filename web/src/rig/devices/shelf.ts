import type { Catalogue, Saved, SavedKit } from "../../api/client";
import { bears } from "../../ui";
import type { Piece } from "./model";

export type OnShelf = {
  key: string;
  profile: Catalogue["profiles"][number];
  piece: Piece;
  /** The kit that it belongs to; nothing for an archetype. */
  from: string;
  /** In how many rigs it is. */
  used: number;
  text: string;
  /** As much of that as is its name. */
  named: string;
  /** What kind of thing it is, in one word or two. */
  kind: string;
};

/** So many are shown at a time: a rental house has thousands, and nobody reads on for so long. */
export const SHOWN = 40;

/** What most rigs are begun with. Offered, never forced. */
export const SKELETON: { name: string; kinds: string[] }[] = [
  { name: "a body", kinds: ["camera-body"] },
  { name: "a lens", kinds: ["lens"] },
  { name: "a gimbal", kinds: ["gimbal"] },
  { name: "a link", kinds: ["transmitter", "receiver"] },
  { name: "a monitor", kinds: ["monitor", "phone"] },
];

/** Everything that can be taken: pieces of the kits first, then archetypes, in each the most used first. */
export function shelfOf(catalogue: Catalogue | undefined, kits: readonly SavedKit[], rigs: readonly Saved[]): OnShelf[] {
  const profiles = new Map(catalogue?.profiles.map((one) => [one.id, one]));
  const used = new Map<string, number>();
  for (const { document: rig } of rigs)
    for (const profile of new Set(rig.devices.map((device) => device.profile))) used.set(profile, (used.get(profile) ?? 0) + 1);
  const line = (profile: OnShelf["profile"], piece: Piece, from: string, key: string): OnShelf => ({
    key,
    profile,
    piece,
    from,
    used: used.get(profile.id) ?? 0,
    text: [profile.name, profile.kind_name, profile.kind, profile.summary, from, ...profile.matters].join(" ").toLowerCase(),
    named: `${profile.name} ${profile.kind_name}`,
    kind: profile.kind_name,
  });
  const own = kits.flatMap(({ document: kit }) =>
    (kit.devices ?? []).flatMap((piece, number) => {
      const profile = profiles.get(piece.profile);
      return profile && piece.count !== 0 ? [line(profile, piece, kit.name, `${kit.id} ${number}`)] : [];
    }),
  );
  const rest = [...profiles.values()].map((profile) => line(profile, { profile: profile.id }, "", profile.id));
  const byUse = (one: OnShelf, other: OnShelf) => other.used - one.used || one.profile.name.localeCompare(other.profile.name);
  return [...own.sort(byUse), ...rest.sort(byUse)];
}

/** What bears every word, of one kind or of any: first what *is* one, then what is called so, then the rest. */
export function findOnShelf(shelf: readonly OnShelf[], words: string, kind: string): OnShelf[] {
  const fits = bears(words);
  const found = shelf.filter((one) => (!kind || one.profile.kind === kind) && fits(one.text));
  const rank = (one: OnShelf) => (words.trim() && fits(one.kind) ? 0 : fits(one.named) ? 1 : 2);
  return found.toSorted((one, other) => rank(one) - rank(other));
}
