import { Link } from "react-router";

import { Pictogram } from "../../ui";
import { useDraft } from "../use-draft";

/** The way to the finder, where something does not look as it should. */
export function FindIt() {
  const { rig } = useDraft();
  return (
    <Link
      to={`/rigs/${rig.id}/find`}
      className="ml-3 inline-flex min-h-11 items-center gap-2 rounded-md border border-edge bg-raised px-3 align-middle font-semibold text-ink no-underline"
    >
      <Pictogram name="look" /> Find what is wrong
    </Link>
  );
}
