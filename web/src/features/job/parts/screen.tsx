import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";

import { Refusal, type Rig, type Schemas } from "../../../api/client";
import { History, SaveState, useDocument, type Move } from "../../../keeping";
import { kitsQuery, Page, Problems, rigsQuery } from "../../../rig";
import { Button, Choose, counted, Empty, Panel, Pictogram, today } from "../../../ui";
import { begun, dateWords, rigsOf, unwritten, withDay, withNextDay, type Job } from "../model";
import { addJob, jobKeeper, jobsQuery } from "../queries";
import { DayEditor } from "./day";
import { NotePanel } from "./note";
import { PackRules } from "./pack-rules";
import { People } from "./people";
import { Places } from "./places";
import { Timeline } from "./timeline";

/** A job: its days with what is shot when, the rigs, and where to go on from here. */
export function JobScreen() {
  const { jobId } = useParams();
  const { data: jobs, error } = useQuery(jobsQuery);
  const { data: rigs } = useQuery(rigsQuery);
  const client = useQueryClient();
  const add = useMutation({ mutationFn: addJob, onSuccess: () => client.invalidateQueries({ queryKey: jobsQuery.queryKey }) });
  const saved = jobs?.find((one) => one.document.id === jobId) ?? jobs?.[0];
  const named = unwritten(rigs ?? [], jobs ?? []);
  return (
    <Page here="/job">
      {[error, add.error].map((one) => one && <Problems key={one.message} refusal={one instanceof Refusal ? one : undefined} />)}
      <nav aria-label="Jobs" className="mb-3 flex flex-wrap gap-2">
        {(jobs ?? []).map((one) => (
          <Link
            key={one.document.id}
            to={`/job/${one.document.id}`}
            className={`flex min-h-11 items-center rounded-md border-2 px-3 font-semibold ${one === saved ? "border-lead" : "border-edge"}`}
          >
            {one.document.name}
          </Link>
        ))}
        {named.map((one) => (
          <Button key={one.name} onClick={() => add.mutate(begun(one.name, one.days))}>
            Begin {one.name}
          </Button>
        ))}
      </nav>
      {jobs?.length === 0 && named.length === 0 && (
        <Panel>
          <Empty title="No job yet">
            <p className="mb-4">
              A job has its days: when the call is, what is shot when, with which rigs. Begin one, then name it in your rigs.
            </p>
            <Button weight="lead" onClick={() => add.mutate(begun("Our job", [today()]))}>
              Begin a job
            </Button>
          </Empty>
        </Panel>
      )}
      {saved && <OneJob key={saved.document.id} first={saved} />}
    </Page>
  );
}

function OneJob({ first }: { first: Schemas["Saved_Job_"] }) {
  const client = useQueryClient();
  const { data: rigs } = useQuery(rigsQuery);
  const [looksBack, setLooksBack] = useState(false);
  const [chosen, setChosen] = useState(0);
  const [draft, sync] = useDocument(first, jobKeeper(first.document.id, client));
  const { document: job, saved } = draft;
  const move = (by: Move) => sync.send({ type: "move", by });
  const edit = (change: (now: Job) => Job) => sync.send({ type: "edit", change });
  const days = job.days ?? [];
  const number = Math.min(chosen, days.length - 1);
  const day = days[number];
  const those = rigsOf(rigs ?? [], job).map((one) => one.document);
  return (
    <div className="space-y-3">
      <Panel
        title={job.name}
        actions={
          <span className="flex flex-wrap gap-2">
            <SaveState draft={draft} sync={sync} what={job.name} />
            <Button weight="quiet" disabled={!saved.can_undo} onClick={() => move("undo")}>
              Undo
            </Button>
            <Button weight="quiet" disabled={!saved.can_redo} onClick={() => move("redo")}>
              Redo
            </Button>
            <Button weight="quiet" onClick={() => setLooksBack(true)}>
              History
            </Button>
          </span>
        }
      >
        {draft.phase === "still" && <Problems refusal={draft.refusal} />}
        <Days
          days={days}
          chosen={number}
          onChoose={setChosen}
          onAdd={() => {
            edit((now) => withNextDay(now, today()));
            setChosen(days.length);
          }}
        />
        {day && <Timeline day={day} rigs={those} />}
        {day && (
          <Link
            to={`/job/${job.id}/packs/${number}`}
            className="mt-3 inline-flex min-h-11 items-center gap-2 rounded-md border border-edge bg-raised px-3 font-semibold"
          >
            <Pictogram name="battery" className="text-power" /> Packs of this day: which goes where, and when
          </Link>
        )}
      </Panel>
      <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_24rem]">
        {day && (
          <DayEditor
            key={day.date}
            job={job}
            day={day}
            rigs={those}
            onChange={(change) => edit((now) => withDay(now, number, change))}
            onRemove={() => edit((now) => ({ ...now, days: (now.days ?? []).filter((_, at) => at !== number) }))}
          />
        )}
        <div className="space-y-3">
          <Rigs job={job} rigs={those} onKit={(kit) => edit((now) => ({ ...now, kit }))} />
          <Places job={job} onChange={(next) => edit(() => next)} />
          <People people={job.people ?? []} onChange={(people) => edit((now) => ({ ...now, people }))} />
          <PackRules rules={job.packs} onChange={(packs) => edit((now) => ({ ...now, packs }))} />
          <NotePanel
            label="Note for the job"
            placeholder="What everybody on it has to know"
            value={job.note}
            onChange={(note) => edit((now) => ({ ...now, note }))}
          />
        </div>
      </div>
      <History open={looksBack} onClose={() => setLooksBack(false)} draft={draft} sync={sync} what={job.name} />
    </div>
  );
}

function Days({
  days,
  chosen,
  onChoose,
  onAdd,
}: {
  days: NonNullable<Job["days"]>;
  chosen: number;
  onChoose: (number: number) => void;
  onAdd: () => void;
}) {
  return (
    <div role="group" aria-label="Days" className="flex flex-wrap gap-2">
      {days.map((one, at) => (
        <Button key={one.date} weight={at === chosen ? "lead" : "plain"} aria-pressed={at === chosen} onClick={() => onChoose(at)}>
          {dateWords(one.date)}
        </Button>
      ))}
      <Button onClick={onAdd}>+ Day</Button>
    </div>
  );
}

/** The rigs that name the job, and where else to look. */
function Rigs({ job, rigs, onKit }: { job: Job; rigs: readonly Rig[]; onKit: (kit: string | null) => void }) {
  const { data: kits = [] } = useQuery(kitsQuery);
  return (
    <Panel title={counted(rigs.length, "rig")}>
      <ul className="space-y-1">
        {rigs.map((rig) => (
          <li key={rig.id}>
            <Link to={`/rigs/${rig.id}`} className="flex min-h-11 items-center gap-3 rounded-md px-2 hover:bg-raised">
              <span className="w-8 rounded-sm bg-raised text-center font-bold">{rig.camera}</span>
              <span className="min-w-0 flex-1 truncate">{rig.name}</span>
              <span className="text-sm text-soft">{counted(rig.promises?.length ?? 0, "promise")}</span>
            </Link>
          </li>
        ))}
      </ul>
      {rigs.length === 0 && <p className="text-soft">No rig names this job yet: say it in the panel of the rig itself.</p>}
      {kits.length > 0 && (
        <p className="mt-3 flex flex-wrap items-center gap-2">
          <span>On the van</span>
          <Choose
            label="The kit on the van"
            value={job.kit ?? ""}
            choices={[{ value: "", label: "no kit" }, ...kits.map((one) => ({ value: one.document.id, label: one.document.name }))]}
            onChange={(kit) => onKit(kit || null)}
          />
        </p>
      )}
      <p className="mt-3 flex flex-wrap gap-4">
        <Link to="/log" className="inline-flex min-h-11 min-w-11 items-center underline">
          What was logged
        </Link>
        <Link to={job.kit ? `/kit/${job.kit}` : "/kit"} className="inline-flex min-h-11 min-w-11 items-center underline">
          Its kit
        </Link>
      </p>
    </Panel>
  );
}
