import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";

import { api, Refusal, told, type Saved, type Schemas } from "../../../api/client";
import { mayPass, retryAfter, SaveState, useDocument, type DraftSync } from "../../../keeping";
import { Page, rigsQuery, useMe, usePerson, Waiting } from "../../../rig";
import { Button, Empty, Panel, saveFile } from "../../../ui";
import { dateWords, withDay, type Job, type JobDay } from "../model";
import { jobKeeper, jobsQuery, noteOf, rotaQuery, sayHappened, type Note } from "../queries";
import { dayOf, lastSaid, quiet, saidOf, type Happened, type Rota } from "../rota";
import { RotaActs } from "./rota-acts";
import { RotaFigure } from "./rota-figure";
import { RotaLive } from "./rota-live";
import { PrintRota } from "./rota-printed";
import { Remedies, RotaTold } from "./rota-told";

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
  const { say, error } = useSaying(job.id, day?.date ?? "", sync);
  const { mayTick, mayEdit } = useMe();
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
        <NoRota job={job.id} says={refused ?? "There is no such day"} />
      )}
      {error && (
        <p role="alert" className="text-warn">
          {error}
        </p>
      )}
      {rota && day && !refused && (
        // On a phone what is to be done comes first, the picture after it.
        <div className="flex flex-col gap-3">
          <Drawn rota={rota} day={day} />
          <div className="items-start gap-3 max-lg:contents lg:grid lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
            <div className="space-y-3">
              <RotaActs
                rota={rota}
                mayTick={mayTick}
                onDone={(act) => {
                  const at = now ?? act.clock;
                  setNow(at);
                  const what: Happened = { kind: "changed", at, rig: act.rig!, device: act.device!, pack: act.pack };
                  say(what, { rig: act.rig!, device: act.device!, what: "battery-changed", reason: act.says });
                }}
                onBack={(act) => {
                  const what = saidOf(day, act);
                  if (what) say(what, undefined, true);
                }}
              />
              <Remedies rota={rota} />
            </div>
            <div className="space-y-3 max-lg:order-3">
              <RotaLive
                rota={rota}
                day={day}
                now={now}
                onNow={setNow}
                onLonger={mayEdit ? edit : undefined}
                onSaid={mayTick ? say : undefined}
              />
              <RotaTold rota={rota} />
            </div>
          </div>
        </div>
      )}
    </div>
  );
}

function NoRota({ job, says }: { job: string; says: string }) {
  return (
    <Panel>
      <Empty title={says}>
        <Link to={`/job/${job}`} className="underline">
          To the day
        </Link>
      </Empty>
    </Panel>
  );
}

function Drawn({ rota, day }: { rota: Rota; day: JobDay }) {
  return (
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
  );
}

/** Saying what happened, to the job and to the rig's own log: beside what is edited, and until the cart is in reach. */
function useSaying(job: string, date: string, sync: DraftSync<Job>) {
  const { data: rigs } = useQuery(rigsQuery);
  const [person] = usePerson();
  const again = {
    retry: (_: number, error: Error) => error instanceof Refusal && mayPass(error),
    retryDelay: retryAfter,
  };
  const day = useMutation({
    ...again,
    mutationFn: async (body: Schemas["SaidOfDay"]) => {
      // What is being written would else be met by this as by somebody else's.
      if (sync.state() === "saving") await sync.whenSaved();
      return sayHappened(job, body);
    },
    onSuccess: (saved) => sync.send({ type: "heard", revision: saved.revision }),
  });
  const log = useMutation({
    ...again,
    mutationFn: (said: { rig: Saved; note: Note; uid: string }) => noteOf(said.rig, said.note, person, said.uid),
  });
  const say = (what: Happened, note?: Note, took_back = false) => {
    day.mutate({ date, what, took_back });
    const rig = note && rigs?.find((one) => one.document.id === note.rig);
    if (rig) log.mutate({ rig, note, uid: `pack-${crypto.getRandomValues(new Uint32Array(3)).join("-")}` });
  };
  const waits = day.failureReason ?? log.failureReason;
  const error =
    (day.error && `It was not taken: ${day.error.message}`) ??
    (log.error && `The rig's log did not take it: ${log.error.message}`) ??
    (waits && `Not said yet, and tried again: ${waits.message} Leave this page open.`);
  return { say, error };
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
