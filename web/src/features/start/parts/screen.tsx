import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { Refusal, type Saved } from "../../../api/client";
import { Button, Empty, FileButton, Panel } from "../../../ui";
import { Page, Problems, rigsQuery } from "../../../rig";
import { addRig, removeRig, restoreRig } from "../queries";
import { Examples } from "./examples";

/** The first page: the rigs of the day, the examples, and a place to bring one in from a file. */
export function Start() {
  const { data: rigs, error } = useQuery(rigsQuery);
  const client = useQueryClient();
  const [removed, setRemoved] = useState<Saved["document"]>();
  const again = () => client.invalidateQueries({ queryKey: rigsQuery.queryKey });
  const remove = useMutation({
    mutationFn: async (rig: Saved["document"]) => {
      await removeRig(rig.id);
      setRemoved(rig);
    },
    onSuccess: again,
  });
  const restore = useMutation({
    mutationFn: async (rig: Saved["document"]) => {
      await restoreRig(rig.id);
      setRemoved(undefined);
    },
    onSuccess: again,
  });
  return (
    <Page here="/">
      <h1 className="mb-3 px-1 text-2xl font-bold">Will everything that was promised work, and how?</h1>
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_27rem]">
        <div className="space-y-3">
          {removed && <Removed rig={removed} onBack={() => restore.mutate(removed)} />}
          <Panel title="Rigs of the day">
            {rigs?.length === 0 && <Empty title="No rig yet">Open an example at the right, or bring in a rig document below.</Empty>}
            <ul className="grid gap-3">
              {rigs?.map((saved) => (
                <li key={saved.document.id}>
                  <RigCard saved={saved} onRemove={() => remove.mutate(saved.document)} />
                </li>
              ))}
            </ul>
          </Panel>
          <BringIn />
        </div>
        <Examples />
      </div>
    </Page>
  );
}

function RigCard({ saved, onRemove }: { saved: Saved; onRemove: () => void }) {
  const rig = saved.document;
  return (
    <div className="flex gap-2">
    <Link
      to={`/rigs/${rig.id}/promises`}
      className="flex min-h-24 min-w-0 flex-1 items-start gap-4 rounded-lg border border-edge bg-raised p-4 hover:border-lead"
    >
      <span aria-hidden className="flex size-14 shrink-0 items-center justify-center rounded-md bg-lead text-3xl font-bold text-on-lead">
        {rig.camera}
      </span>
      <span>
        <span className="block text-lg font-semibold">{rig.name}</span>
        <span className="text-soft">
          {rig.promises.length} promises to {[...new Set(rig.promises.map((promise) => promise.who))].join(", ") || "nobody yet"};
          revision {saved.revision}
        </span>
        <span className="mt-2 block">{rig.devices.map((device) => device.name ?? device.profile).join(", ")}</span>
        {rig.note && <span className="mt-1 block text-soft">{rig.note}</span>}
      </span>
    </Link>
      <Button weight="quiet" className="self-stretch" aria-label={`Remove ${rig.name}`} onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}

/** What was just removed, and the way back. */
function Removed({ rig, onBack }: { rig: Saved["document"]; onBack: () => void }) {
  return (
    <p role="status" className="flex items-center justify-between gap-3 rounded-md border border-lead p-2 pl-4">
      {rig.name} is off the list. Its history is kept.
      <Button onClick={onBack}>Bring it back</Button>
    </p>
  );
}

/** Bring a rig in from a file. It is refused whole, with every error at its line. */
function BringIn() {
  const client = useQueryClient();
  const go = useNavigate();
  const add = useMutation({
    mutationFn: async (chosen: File) => {
      if (chosen.size > 1_000_000) {
        const words = `found ${chosen.size.toLocaleString("en")} bytes; a document has at most 1,000,000.`;
        const problem = { code: "too-large", path: "", message: words, hint: "", file: chosen.name, line: null };
        throw new Refusal(422, { code: "too-large", message: words, path: "", hint: "", problems: [problem] });
      }
      return addRig(await chosen.text(), chosen.name);
    },
    onSuccess: (saved) => {
      void client.invalidateQueries({ queryKey: rigsQuery.queryKey });
      void go(`/rigs/${saved.document.id}/promises`);
    },
  });
  return (
    <Panel title="Bring in a rig">
      <p className="mb-3 text-soft">A rig document in YAML or JSON. If anything in it is wrong, nothing is taken in.</p>
      <FileButton weight="lead" label="Rig document" accept=".yaml,.yml,.json" disabled={add.isPending} onChosen={(chosen) => add.mutate(chosen)}>
        {add.isPending ? "Reading" : "Choose a file"}
      </FileButton>
      {add.error && <Problems refusal={add.error instanceof Refusal ? add.error : undefined} />}
    </Panel>
  );
}
