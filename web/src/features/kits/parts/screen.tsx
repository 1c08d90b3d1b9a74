import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";

import { Refusal, type Kit, type SavedKit } from "../../../api/client";
import { Button, Empty, Panel } from "../../../ui";
import { History, SaveState, useDocument, type Move } from "../../../keeping";
import { kitsQuery, Page, Problems } from "../../../rig";
import { addKit, kitKeeper } from "../queries";
import { DayPanel } from "./day";
import { ListDialog } from "./list";
import { Pieces } from "./pieces";
import { SmallParts } from "./small-parts";

const NEW: Kit = { format: "isotact/kit", version: 1, id: "kit", name: "Our kit", devices: [], cables: [], packs: [], note: null };

/** What the crew has, and the day planned with it. */
export function KitScreen() {
  const { kitId } = useParams();
  const { data: kits, error } = useQuery(kitsQuery);
  const client = useQueryClient();
  const add = useMutation({ mutationFn: addKit, onSuccess: () => client.invalidateQueries({ queryKey: kitsQuery.queryKey }) });
  const saved = kits?.find((one) => one.document.id === kitId) ?? kits?.[0];
  return (
    <Page here="/kit">
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      {add.error && <Problems refusal={add.error instanceof Refusal ? add.error : undefined} />}
      {kits && kits.length > 1 && (
        <nav aria-label="Kits" className="mb-3 flex flex-wrap gap-2">
          {kits.map((one) => (
            <Link
              key={one.document.id}
              to={`/kit/${one.document.id}`}
              className={`flex min-h-11 items-center rounded-md border-2 px-3 font-semibold ${one === saved ? "border-lead" : "border-edge"}`}
            >
              {one.document.name}
            </Link>
          ))}
        </nav>
      )}
      {kits?.length === 0 && (
        <Panel>
          <Empty title="No kit yet">
            <p className="mb-4">
              A kit is what the crew has: devices and cables with counts, tags and firmware. Start one, then bring in your list.
            </p>
            <Button weight="lead" onClick={() => add.mutate(NEW)}>
              Start a kit
            </Button>
          </Empty>
        </Panel>
      )}
      {saved && <OneKit key={saved.document.id} first={saved} />}
    </Page>
  );
}

function OneKit({ first }: { first: SavedKit }) {
  const client = useQueryClient();
  const [listing, setListing] = useState(false);
  const [looksBack, setLooksBack] = useState(false);
  const [draft, sync] = useDocument(first, kitKeeper(first.document.id, client));
  const { document: kit, saved } = draft;
  const move = (by: Move) => sync.send({ type: "move", by });
  return (
    <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <Panel
        title={kit.name}
        actions={
          <span className="flex flex-wrap gap-2">
            <SaveState draft={draft} sync={sync} what={kit.name} />
            <Button weight="quiet" disabled={!saved.can_undo} onClick={() => move("undo")}>
              Undo
            </Button>
            <Button weight="quiet" disabled={!saved.can_redo} onClick={() => move("redo")}>
              Redo
            </Button>
            <Button weight="quiet" onClick={() => setLooksBack(true)}>
              History
            </Button>
            <Button onClick={() => setListing(true)}>Bring in a list</Button>
            <a
              href={`/api/kits/${kit.id}/list`}
              className="inline-flex min-h-11 items-center rounded-md border border-edge bg-raised px-3"
              download
            >
              Save as CSV
            </a>
          </span>
        }
      >
        {draft.phase === "still" && <Problems refusal={draft.refusal} />}
        <Pieces kit={kit} onChange={(next) => sync.send({ type: "edit", change: () => next })} />
        <SmallParts kit={kit} onChange={(next) => sync.send({ type: "edit", change: () => next })} />
      </Panel>
      <DayPanel kit={kit} />
      <History open={looksBack} onClose={() => setLooksBack(false)} draft={draft} sync={sync} what={kit.name} />
      <ListDialog
        open={listing}
        saved={saved as SavedKit}
        onClose={() => setListing(false)}
        onTaken={(taken) => sync.send({ type: "moved", saved: taken })}
      />
    </div>
  );
}
