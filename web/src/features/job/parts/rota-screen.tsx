import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";

import { api, told, type Saved, type Schemas } from "../../../api/client";
import { SaveState, useDocument } from "../../../keeping";
import { Page, rigsQuery, Waiting } from "../../../rig";
import { Button, Empty, Panel, saveFile } from "../../../ui";
import { dateWords, withDay, type Job } from "../model";
import { jobKeeper, jobsQuery, noteChange, rotaQuery } from "../queries";
import { dayOf, lastSaid, quiet, withHappened, without, type Rota, type RotaAct } from "../rota";
import { RotaActs } from "./rota-acts";
import { RotaFigure } from "./rota-figure";
import { RotaLive } from "./rota-live";
import { PrintRota } from "./rota-printed";
import { RotaTold } from "./rota-told";

/** The packs of a day: which is where when, what is to be done, and what it would take. */
export function RotaScreen() {
  const { jobId, number } = useParams();
  const { data: jobs } = useQuery(jobsQuery);
  const saved = jobs?.find((one) => one.document.id === jobId);
  return (
    <Page here="/job">
      {jobs && !saved && (
        <Panel>
          <Empty title="There is no such job">
            <Link to="/job" className="underline">
              All jobs
            </Link>
          </Empty>
        </Panel>
      )}
      {saved && <OneDay key={saved.document.id} first={saved} number={Number(number ?? 0)} />}
    </Page>
  );
}

function OneDay({ first, number }: { first: Schemas["Saved_Job_"]; number: number }) {
  const [draft, sync] = useDocument(first, jobKeeper(first.document.id, useQueryClient()));
  const job = draft.document;
  const day = dayOf(job, number);
  const [now, setNow] = useState(() => lastSaid(day));
  const query = useQuery({ ...rotaQuery(job, number, now), enabled: day !== undefined });
  const { data: rota } = query;
  const edit = (change: Partial<NonNullable<typeof day>>) => sync.send({ type: "edit", change: (was) => withDay(was, number, change) });
  const refused = query.error?.message;
  const { data: rigs } = useQuery(rigsQuery);
  const log = useMutation({ mutationFn: ({ rig, act }: { rig: Saved; act: RotaAct }) => noteChange(rig, act.device!, act.says) });
  return (
    <div className="space-y-3">
      <nav aria-label="Where this is" className="flex flex-wrap items-center gap-3">
        <Link to={`/job/${job.id}`} className="inline-flex min-h-11 items-center underline">
          ‹ {job.name}
        </Link>
        {day && <h1 className="text-xl font-bold">Packs, {dateWords(day.date)}</h1>}
        <span className="ml-auto flex flex-wrap gap-2">
          <SaveState draft={draft} sync={sync} what={job.name} />
          {rota && <Out job={job} number={number} now={now} rota={rota} />}
        </span>
      </nav>
      {!refused && <Waiting name="rota" query={query} says="Finding which pack goes where" />}
      {(refused ?? (day === undefined ? "There is no such day." : undefined)) && (
        <Panel>
          <Empty title={refused ?? "There is no such day"}>
            <Link to={`/job/${job.id}`} className="underline">
              To the day
            </Link>
          </Empty>
        </Panel>
      )}
      {log.error && <p className="text-warn">The rig's log did not take the change: {log.error.message}</p>}
      {rota && day && !refused && (
        // On a phone what is to be done comes first, the picture after it.
        <div className="flex flex-col gap-3">
          <Panel title={<Headline rota={rota} />} className="max-lg:order-2">
            <p className="mb-3 text-soft">
              {rota.clock_says} {rota.least_says}
            </p>
            <RotaFigure rota={rota} day={day} />
            {quiet(rota).length > 0 && (
              <p className="mt-2 text-soft">
                Last as they are:{" "}
                {quiet(rota)
                  .map((one) => `${one.camera} ${one.name}`)
                  .join(", ")}
                .
              </p>
            )}
          </Panel>
          <div className="items-start gap-3 max-lg:contents lg:grid lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
            <RotaActs
              rota={rota}
              onDone={(act) => {
                const at = now ?? act.clock;
                setNow(at);
                edit(withHappened(day, { kind: "changed", at, rig: act.rig!, device: act.device!, pack: act.pack }));
                const rig = rigs?.find((one) => one.document.id === act.rig);
                if (rig) log.mutate({ rig, act });
              }}
              onBack={(act) => edit(without(day, act))}
            />
            <div className="space-y-3 max-lg:order-3">
              <RotaLive rota={rota} day={day} now={now} onNow={setNow} onChange={edit} />
              <RotaTold rota={rota} />
            </div>
          </div>
        </div>
      )}
    </div>
  );
}

function Headline({ rota }: { rota: Rota }) {
  const bad = Boolean(rota.first_dark) || rota.spoilt > 0;
  return (
    <span className={bad ? "text-bad" : "text-good"}>
      <span aria-hidden>{bad ? "▲ " : "✓ "}</span>
      {rota.says}
    </span>
  );
}

/** The rota for a printer, a spreadsheet, a telephone. */
function Out({ job, number, now, rota }: { job: Job; number: number; now: string | undefined; rota: Rota }) {
  const fetched = async () => told(api.POST("/api/rota/papers", { body: { document: job, day: number, now: now ?? null } }));
  const name = `${job.id}-${rota.date}-packs`;
  return (
    <>
      <PrintRota rota={rota} name={job.name} />
      <Button onClick={() => void fetched().then((papers) => saveFile(papers.table, `${name}.csv`, "text/csv"))}>Table</Button>
      <Button onClick={() => void fetched().then((papers) => saveFile(papers.calendar, `${name}.ics`, "text/calendar"))}>Calendar</Button>
    </>
  );
}
