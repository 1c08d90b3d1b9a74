import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";

import { Button, Choose, counted, ofKind, Pictogram, SearchField } from "../../ui";
import { catalogueQuery, kitsQuery, rigsQuery } from "../queries";
import type { Piece } from "./model";
import { findOnShelf, SHOWN, shelfOf, type OnShelf } from "./shelf";

/** Everything there is to take: the kit's own first, then what is used most; searched by any word that matters. */
export function Shelf({ have, onTake, rig }: { have: readonly string[]; onTake: (piece: Piece) => void; rig?: string }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const { data: kits } = useQuery(kitsQuery);
  const { data: rigs } = useQuery(rigsQuery);
  const [words, setWords] = useState("");
  const [kind, setKind] = useState("");
  const shelf = useMemo(() => shelfOf(catalogue, kits ?? [], rigs ?? []), [catalogue, kits, rigs]);
  const found = useMemo(() => findOnShelf(shelf, words, kind), [kind, shelf, words]);
  const [more, setMore] = useState({ asked: "", count: SHOWN });
  // What is asked for anew is shown from its beginning.
  const asked = `${kind} ${words}`;
  const count = more.asked === asked ? more.count : SHOWN;
  const kinds = [...new Map(shelf.map((one) => [one.profile.kind, one.profile.kind_name]))].sort();
  const nearest = found[0] ?? shelf[0];
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap gap-2">
        <SearchField
          label="Search the shelf"
          placeholder="Search: PL, HDMI"
          value={words}
          onChange={setWords}
          className="min-w-48 flex-1"
        />
        <Choose
          label="Kind"
          value={kind}
          choices={[{ value: "", label: "every kind" }, ...kinds.map(([value, label]) => ({ value, label }))]}
          onChange={setKind}
        />
      </div>
      <p role="status" className="text-sm text-soft">
        {found.length === 0
          ? "Nothing on the shelf is called so."
          : `${found.length} on the shelf${found.length > count ? `; the first ${count} are shown` : ""}`}
      </p>
      <ul>
        {found.slice(0, count).map((one) => (
          <ShelfLine key={one.key} one={one} taken={have.filter((id) => id === one.profile.id).length} onTake={onTake} />
        ))}
      </ul>
      {found.length > count && (
        <Button className="w-full" onClick={() => setMore({ asked, count: count + SHOWN })}>
          Show {Math.min(SHOWN, found.length - count)} more
        </Button>
      )}
      {nearest && (
        <p className="border-t border-edge pt-2">
          Not on the shelf?{" "}
          <Link
            className="inline-flex min-h-11 items-center underline"
            to={`/workshop?from=${nearest.profile.id}${rig ? `&rig=${rig}` : ""}`}
          >
            Make it from the nearest: {nearest.profile.name}
          </Link>
        </p>
      )}
    </div>
  );
}

function ShelfLine({ one, taken, onTake }: { one: OnShelf; taken: number; onTake: (piece: Piece) => void }) {
  const { profile } = one;
  return (
    <li className="flex items-start gap-2 border-b border-edge py-2">
      <Pictogram name={ofKind(profile.like)} size={36} className="mt-1 text-soft" />
      <span className="min-w-0 flex-1 leading-snug">
        <span className="block font-semibold">{profile.name}</span>
        <span className="block text-sm text-soft">
          {[profile.kind_name, one.from, one.used > 0 ? `in ${counted(one.used, "rig")}` : "", profile.is_own ? "your own" : ""]
            .filter(Boolean)
            .join(", ")}
        </span>
        <span className="block">{profile.apart}</span>
      </span>
      <span className="flex flex-col items-end gap-1">
        <Button aria-label={`Take ${profile.name}${one.from ? ` from ${one.from}` : ""}`} onClick={() => onTake(one.piece)}>
          Take
        </Button>
        {taken > 0 && <span className="text-sm text-soft">{taken} in the rig</span>}
      </span>
    </li>
  );
}
