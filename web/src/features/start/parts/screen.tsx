import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { Refusal, type Saved } from "../../../api/client";
import { Page, Problems, rigsQuery } from "../../../rig";
import { Button, Empty, FileButton, Panel, today } from "../../../ui";
import { dayAtHand, dayWords, jobAtHand, jobsOf, rigsOn } from "../model";
import { addRig, binQuery, removeRig, restoreRig } from "../queries";
import { Examples } from "./examples";
import { Notices } from "./notices";

const TOUR = "night-ferry-b";

/** The first page: the rigs of the day at hand, the other jobs and days a tap away, and every way to begin. */
export function Start() {
  const { data: rigs, error } = useQuery(rigsQuery);
  const client = useQueryClient();
  const [removed, setRemoved] = useState<Saved["document"]>();
  const again = () => Promise.all([rigsQuery, binQuery].map(({ queryKey }) => client.invalidateQueries({ queryKey })));
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
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_27rem]">
        <div className="min-w-0 space-y-3">
          {removed && <Removed rig={removed} onBack={() => restore.mutate(removed)} />}
          {rigs && <Notices rigs={rigs} />}
          {rigs && <RigsOfTheDay rigs={rigs} onRemove={remove.mutate} />}
          <BringIn />
        </div>
        <Examples />
      </div>
    </Page>
  );
}

function RigsOfTheDay({ rigs, onRemove }: { rigs: readonly Saved[]; onRemove: (rig: Saved["document"]) => void }) {
  const [jobName, setJob] = useState<string>();
  const [chosenDay, setDay] = useState<string>();
  const jobs = jobsOf(rigs);
  const job = jobs.find((one) => one.name === jobName) ?? jobAtHand(jobs, today());
  if (!job)
    return (
      <Panel title="Rigs of the day">
        <Empty title="No rig yet">
          <p className="mb-3">Begin with what lies in the case: name the rig, take its devices from the shelf, then say who needs what.</p>
          <NewRig />
          <p className="mt-3">Or open an example to see how one looks.</p>
        </Empty>
      </Panel>
    );
  const day = chosenDay !== undefined && (chosenDay === "" || job.days.includes(chosenDay)) ? chosenDay : dayAtHand(job, today());
  const shown = rigsOn(job, day);
  const canTour = rigs.some((one) => one.document.id === TOUR);
  return (
    <Panel
      title={`Rigs of ${day ? `${dayWords(day)}${day === today() ? ", today" : ""}` : "the day"}`}
      actions={
        <span className="flex flex-wrap gap-2">
          {canTour && (
            <Link to={`/rigs/${TOUR}/case?tour=1`} className="flex min-h-11 items-center rounded-md px-3 underline">
              The demo in six taps
            </Link>
          )}
          <NewRig />
        </span>
      }
    >
      <div className="mb-3 flex flex-wrap gap-2">
        {jobs.length > 1 &&
          jobs.map((one) => (
            <Chip key={one.name} on={one.name === job.name} onTap={() => setJob(one.name)}>
              {one.name}
            </Chip>
          ))}
      </div>
      {job.days.length > 0 && (
        <div className="mb-3 flex flex-wrap gap-2" role="group" aria-label="Days">
          {["", ...job.days].map((one) => (
            <Chip key={one} on={one === day} onTap={() => setDay(one)}>
              {one ? dayWords(one) : "Every day"}
            </Chip>
          ))}
        </div>
      )}
      <ul className="grid gap-3">
        {shown.map((saved) => (
          <li key={saved.document.id}>
            <RigCard saved={saved} onRemove={() => onRemove(saved.document)} />
          </li>
        ))}
      </ul>
      {shown.length === 0 && (
        <Empty title="No rig on this day">Tap another day, or say on a rig, under Case, on which days it is used.</Empty>
      )}
    </Panel>
  );
}

function NewRig() {
  return (
    <Link to="/new" className="inline-flex min-h-11 items-center rounded-md bg-lead px-4 font-semibold text-on-lead">
      New rig
    </Link>
  );
}

function Chip({ on, onTap, children }: { on: boolean; onTap: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onTap}
      className={`min-h-11 rounded-md border px-3 ${on ? "border-lead font-semibold shadow-[inset_0_-4px_0_var(--lead)]" : "border-edge"}`}
    >
      {children}
    </button>
  );
}

function RigCard({ saved, onRemove }: { saved: Saved; onRemove: () => void }) {
  const rig = saved.document;
  return (
    <div className="flex flex-wrap rounded-lg border border-edge bg-raised hover:border-lead">
      <Link to={`/rigs/${rig.id}`} className="flex min-h-24 min-w-0 flex-1 basis-64 items-start gap-4 p-4">
        <span aria-hidden className="flex size-14 shrink-0 items-center justify-center rounded-md bg-lead text-3xl font-bold text-on-lead">
          {rig.camera}
        </span>
        <span className="min-w-0">
          <span className="block text-lg font-semibold">{rig.name}</span>
          <span className="text-soft">
            {rig.promises.length} promises to {[...new Set(rig.promises.map((promise) => promise.who))].join(", ") || "nobody yet"}
          </span>
          <span className="mt-1 line-clamp-2">
            {rig.devices.map((device) => device.name ?? device.profile).join(", ") || "nothing in the case yet"}
          </span>
          {rig.note && <span className="mt-1 line-clamp-2 text-soft">{rig.note}</span>}
        </span>
      </Link>
      <span className="flex shrink-0 items-center gap-1 p-2 max-sm:w-full max-sm:justify-end">
        <Link
          to={`/new?copy=${rig.id}`}
          aria-label={`Copy ${rig.name}`}
          className="flex min-h-11 items-center rounded-md px-3 hover:bg-panel"
        >
          Copy
        </Link>
        <Button weight="quiet" aria-label={`Remove ${rig.name}`} onClick={onRemove}>
          Remove
        </Button>
      </span>
    </div>
  );
}

/** What was just removed, and the way back. */
function Removed({ rig, onBack }: { rig: Saved["document"]; onBack: () => void }) {
  return (
    <p role="status" className="flex items-center justify-between gap-3 rounded-md border border-lead p-2 pl-4">
      {rig.name} lies in the bin, with its history.
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
      void go(`/rigs/${saved.document.id}`);
    },
  });
  return (
    <Panel title="Bring in a rig">
      <p className="mb-3 text-soft">A rig document in YAML or JSON. If anything in it is wrong, nothing is taken in.</p>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <FileButton label="Rig document" accept=".yaml,.yml,.json" disabled={add.isPending} onChosen={(chosen) => add.mutate(chosen)}>
          {add.isPending ? "Reading" : "Choose a file"}
        </FileButton>
        <Link to="/bin" className="flex min-h-11 items-center underline">
          Bin: removed rigs
        </Link>
      </div>
      {add.error && <Problems refusal={add.error instanceof Refusal ? add.error : undefined} />}
    </Panel>
  );
}
