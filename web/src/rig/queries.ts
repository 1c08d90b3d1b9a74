import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig, type Schemas } from "../api/client";
import { agoS, type Waiting } from "../keeping";
import { followed } from "./searching";

export const rigsQuery = queryOptions({
  queryKey: ["rigs"],
  queryFn: () => told(api.GET("/api/rigs")),
});

export const rigQuery = (id: string) =>
  queryOptions({
    queryKey: ["rig", id],
    queryFn: () => told(api.GET("/api/rigs/{key}", { params: { path: { key: id } } })),
    staleTime: Infinity,
    retry: false,
  });

/** How the day of a rig stands: its steps, and who is to do what. */
export const stepsQuery = (id: string) =>
  queryOptions({
    queryKey: ["steps", id],
    queryFn: () => told(api.GET("/api/rigs/{key}/steps", { params: { path: { key: id } } })),
  });

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => told(api.GET("/api/catalogue")),
  staleTime: Infinity,
});

/** How connectors look: they ship, and never change while the server runs. */
export const plugsQuery = queryOptions({
  queryKey: ["plugs"],
  // A pair of numbers is read as a list of them: what is answered are pairs.
  queryFn: () => told(api.GET("/api/catalogue/plugs")) as Promise<Schemas["Plugs"]>,
  staleTime: Infinity,
});

/** The answer for a document. The last one stays in sight while the next is worked out. */
export const answerQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["answer", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/plan", { body: { document: rig, reasons: false }, ...followed("plan", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** Why the plan of a document does not keep the rest. Takes longer than the plan, which does not wait for it. */
export const reasonsQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["reasons", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/reasons", { body: { document: rig }, ...followed("reasons", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

const at = (id: string) => ({ params: { path: { key: id } } });

/** What a browser lets a request carry that outlives its page, with room for the rest of it. */
const OUTLIVES_BYTES = 60_000;

/** Saves a rig, even when the page is closed while the request is on its way. */
export const saveRig = (id: string, rig: Rig, madeOn: number) => {
  const keepalive = new Blob([JSON.stringify(rig)]).size < OUTLIVES_BYTES;
  return told(api.PUT("/api/rigs/{key}", { ...at(id), body: { made_on: madeOn, document: rig }, keepalive }));
};

/** Keep a version that came too late in the history, beside the one that stands. */
export const setRigAside = (id: string, rig: Rig, madeOn: number, newest: number) =>
  told(api.PUT("/api/rigs/{key}/aside", { ...at(id), body: { made_on: madeOn, newest, document: rig } }));

export const undoRig = (id: string, madeOn: number) => told(api.POST("/api/rigs/{key}/undo", { ...at(id), body: { made_on: madeOn } }));

export const redoRig = (id: string, madeOn: number) => told(api.POST("/api/rigs/{key}/redo", { ...at(id), body: { made_on: madeOn } }));

/** Fifty revisions, newest first, all before a number where that is given. */
export const historyPage = (id: string, before: number | undefined) =>
  told(api.GET("/api/rigs/{key}/history", { params: { ...at(id).params, query: { before } } }));

/** The rig as it stood at one revision. */
export const oneRevision = (id: string, number: number) =>
  told(api.GET("/api/rigs/{key}/revisions/{number}", { params: { path: { key: id, number } } }));

export const backTo = (id: string, revision: number, madeOn: number) =>
  told(api.POST("/api/rigs/{key}/back-to", { ...at(id), body: { made_on: madeOn, revision } }));

/** The promises that were proven by hand, and what spoilt those proofs that no longer hold. `proven`: what is known to be. */
export const proofsQuery = (rig: Rig, proven: string) =>
  queryOptions({
    queryKey: ["proofs", rig.id, JSON.stringify(rig), proven],
    queryFn: ({ signal }) => told(api.POST("/api/rigs/{key}/proofs", { ...at(rig.id), body: { document: rig }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** Put what was done into the log: how long ago each was is sent, since clocks differ. */
export const addToLog = (id: string, done: readonly Waiting[], revision: number, person: string) => {
  const entries = done.map((one) => ({
    uid: one.uid,
    what: one.what as Schemas["Entry"]["what"],
    subject: one.subject,
    ago_s: agoS(one),
    reason: one.reason ?? null,
    readings: [],
    photos: [],
    ...one.more,
  }));
  return told(api.POST("/api/rigs/{key}/log", { ...at(id), body: { revision, person, entries } }));
};

/** How each promise of a rig is proven by hand, and what may happen to its devices. */
export const provingQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["proving", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/proving", { body: { document: rig }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** What became different between two rigs, and the steps between. */
export const comparedQuery = (then: Rig, now: Rig) =>
  queryOptions({
    queryKey: ["compared", JSON.stringify([then, now])],
    queryFn: ({ signal }) => told(api.POST("/api/compared", { body: { then, now }, signal })),
    staleTime: Infinity,
    retry: false,
  });

/** Recipes for promises that have no way of their own, or a poor one. */
export const offersQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["offers", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/offers", { body: { document: rig }, signal })),
    staleTime: 60_000,
    retry: false,
  });

/** The last time that all was proven by hand. */
export const allProvenQuery = (id: string) =>
  queryOptions({ queryKey: ["steps", id, "all-proven"], queryFn: () => told(api.GET("/api/rigs/{key}/all-proven", at(id))), retry: false });

/** Who asks, and what they may do. */
export const meQuery = queryOptions({ queryKey: ["me"], queryFn: () => told(api.GET("/api/me")), staleTime: Infinity });

/** A new day: nothing is done yet. */
export const newDay = (id: string) => told(api.DELETE("/api/rigs/{key}/steps", at(id)));

export const runBench = (rig: Rig, skip: string[], whole: boolean) =>
  told(api.POST("/api/bench", { body: { document: rig, skip, whole } }));

export const askAftermath = (rig: Rig, asked: Omit<Schemas["RigAndWhat"], "document">) =>
  told(api.POST("/api/aftermath", { body: { document: rig, ...asked } }));

export const kitsQuery = queryOptions({ queryKey: ["kits"], queryFn: () => told(api.GET("/api/kits")) });
