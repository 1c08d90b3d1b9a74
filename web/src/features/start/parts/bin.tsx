import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { Refusal } from "../../../api/client";
import { Page, Problems, rigsQuery } from "../../../rig";
import { Button, counted, Dialog, Empty, Panel } from "../../../ui";
import { binQuery, restoreRig, throwAway } from "../queries";

/** The rigs that were removed: brought back as they were, or thrown away for good. */
export function BinScreen() {
  const { data: bin } = useQuery(binQuery);
  const client = useQueryClient();
  const [sure, setSure] = useState<{ id: string; name: string }>();
  const again = () => {
    setSure(undefined);
    return Promise.all([rigsQuery, binQuery].map(({ queryKey }) => client.invalidateQueries({ queryKey })));
  };
  const back = useMutation({ mutationFn: restoreRig, onSuccess: again });
  const away = useMutation({ mutationFn: throwAway, onSuccess: again });
  const error = back.error ?? away.error;
  return (
    <Page here="/bin">
      <Panel title="Bin">
        {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
        {bin?.length === 0 && (
          <Empty title="The bin is empty">
            A rig that is removed from the first page lies here until you throw it away.{" "}
            <Link to="/" className="inline-flex min-h-11 items-center underline">
              To the rigs of the day
            </Link>
          </Empty>
        )}
        <ul>
          {bin?.map(({ document: rig, removed_at }) => (
            <li key={rig.id} className="flex flex-wrap items-center gap-2 border-b border-edge py-2">
              <span className="min-w-0 flex-1 basis-64 leading-tight">
                <span className="font-semibold">{rig.name}</span>
                <span className="block text-sm text-soft">
                  {[
                    rig.production,
                    counted(rig.devices.length, "device"),
                    counted(rig.promises.length, "promise"),
                    `removed ${new Date(removed_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}`,
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </span>
              </span>
              <Button aria-label={`Bring back ${rig.name}`} disabled={back.isPending} onClick={() => back.mutate(rig.id)}>
                Bring it back
              </Button>
              <Button weight="quiet" aria-label={`Throw away ${rig.name}`} onClick={() => setSure(rig)}>
                Throw away
              </Button>
            </li>
          ))}
        </ul>
      </Panel>
      <Dialog open={sure !== undefined} onClose={() => setSure(undefined)} title={`Throw ${sure?.name ?? ""} away for good?`}>
        <p>It goes with its whole history and every tick on its run sheet. This cannot be undone.</p>
        <div className="mt-4 flex flex-wrap gap-2">
          <Button disabled={away.isPending} onClick={() => sure && away.mutate(sure.id)}>
            Throw it away for good
          </Button>
          <Button weight="lead" onClick={() => setSure(undefined)}>
            Keep it in the bin
          </Button>
        </div>
      </Dialog>
    </Page>
  );
}
