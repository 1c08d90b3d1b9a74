import { keepPreviousData, queryOptions, type QueryClient } from "@tanstack/react-query";

import { api, told, type Saved, type Schemas } from "../../api/client";
import type { Keeper } from "../../keeping";
import { followed } from "../../rig";
import type { Job } from "./model";

export const jobsQuery = queryOptions({ queryKey: ["jobs"], queryFn: () => told(api.GET("/api/jobs")) });

/** The rota of a day; from `now` on, where the day has begun. */
export const rotaQuery = (job: Job, day: number, now: string | undefined) =>
  queryOptions({
    queryKey: ["rota", JSON.stringify([job, day, now])],
    queryFn: ({ signal }) => told(api.POST("/api/rota", { body: { document: job, day, now: now ?? null }, ...followed("rota", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** What the rig's own log keeps of a battery: of one that was changed its sheet then says what has to be done again. */
export type Note = { rig: string; device: string; what: "battery-changed" | "note"; reason: string };

/** `uid`: made once, so that a note which is sent again counts once. */
export const noteOf = (rig: Saved, { device, what, reason }: Note, person: string, uid: string) =>
  told(
    api.POST("/api/rigs/{key}/log", {
      params: { path: { key: rig.document.id } },
      body: {
        revision: rig.revision,
        person,
        entries: [
          {
            uid,
            what,
            subject: device,
            reason,
            ago_s: 0,
            readings: [],
            photos: [],
          },
        ],
      },
    }),
  );

/** What happened on a day: said beside whatever else becomes of the job, so that two at once lose nothing. */
export const sayHappened = (job: string, body: Schemas["SaidOfDay"]) =>
  told(api.POST("/api/jobs/{key}/happened", { params: { path: { key: job } }, body }));

const at = (id: string) => ({ params: { path: { key: id } } });

export const addJob = (document: Job) => told(api.POST("/api/jobs", { body: { document } }));

/** How a job is kept. */
export const jobKeeper = (id: string, client: QueryClient): Keeper<Job> => ({
  path: `job/${id}`,
  save: (document, madeOn) => told(api.PUT("/api/jobs/{key}", { ...at(id), body: { made_on: madeOn, document } })),
  aside: (document, madeOn, newest) => told(api.PUT("/api/jobs/{key}/aside", { ...at(id), body: { made_on: madeOn, newest, document } })),
  move: (by, madeOn) =>
    by === "undo"
      ? told(api.POST("/api/jobs/{key}/undo", { ...at(id), body: { made_on: madeOn } }))
      : told(api.POST("/api/jobs/{key}/redo", { ...at(id), body: { made_on: madeOn } })),
  backTo: (revision, madeOn) => told(api.POST("/api/jobs/{key}/back-to", { ...at(id), body: { made_on: madeOn, revision } })),
  revision: (number) => told(api.GET("/api/jobs/{key}/revisions/{number}", { params: { path: { key: id, number } } })),
  history: (before) => told(api.GET("/api/jobs/{key}/history", { params: { ...at(id).params, query: { before } } })),
  fetch: () => told(api.GET("/api/jobs/{key}", at(id))),
  onSaved: () => void client.invalidateQueries({ queryKey: jobsQuery.queryKey }),
});
