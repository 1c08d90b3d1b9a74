import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import type { Saved } from "../../../api/client";
import { idsLeft } from "../../../keeping";
import { Button } from "../../../ui";
import { stateQuery } from "../queries";
import { useState } from "react";

/** What whoever starts the day has to know of the data: what was mended, what cannot be read, what is not saved yet. */
export function Notices({ rigs }: { rigs: readonly Saved[] }) {
  const { data } = useQuery(stateQuery);
  const [seen, setSeen] = useState(false);
  const unsaved = rigs.filter((one) => idsLeft("rig").includes(one.document.id));
  const notices = seen ? [] : (data?.notices ?? []);
  const unreadable = data?.unreadable ?? [];
  if (notices.length + unreadable.length + unsaved.length === 0) return null;
  return (
    <section aria-label="To know first" className="space-y-2">
      {unsaved.map(({ document: rig }) => (
        <p key={rig.id} className="flex flex-wrap items-center gap-3 rounded-md border-l-8 border-warn bg-raised px-3 py-2">
          <span className="min-w-0 flex-1">▲ What was changed last in {rig.name} is kept in this browser, and not saved yet.</span>
          <Link to={`/rigs/${rig.id}`} className="flex min-h-11 items-center rounded-md bg-lead px-4 font-semibold text-on-lead">
            Open it to save
          </Link>
        </p>
      ))}
      {notices.map((notice) => (
        <p key={notice} className="flex flex-wrap items-center gap-3 rounded-md border-l-8 border-warn bg-raised px-3 py-2">
          <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">{notice}</span>
          <Button onClick={() => setSeen(true)}>Seen</Button>
        </p>
      ))}
      {unreadable.map((one) => (
        <p key={`${one.kind} ${one.id}`} className="rounded-md border-l-8 border-bad bg-raised px-3 py-2">
          ✕ {one.says}
        </p>
      ))}
    </section>
  );
}
