import { queryOptions } from "@tanstack/react-query";

import { api, told, type Schemas } from "../../api/client";

export type Wanted = { rig?: string; person?: string; device?: string; what?: string; words?: string; day?: string; with_photo?: boolean };

export const PAGE = 100;

/** A page of the log book, the newest first; all before a number where that is given. */
export const linesOf = (wanted: Wanted, before: number | undefined, signal: AbortSignal) =>
  told(api.GET("/api/log", { params: { query: { ...wanted, before, count: PAGE } }, signal }));

export const choicesQuery = queryOptions({ queryKey: ["log", "choices"], queryFn: () => told(api.GET("/api/log/choices")) });

/** Write a note about a rig, or a device of it. */
export const note = (rig: string, revision: number, entry: { subject: string; reason: string; photos: string[]; person: string }) => {
  const uid = `${crypto.getRandomValues(new Uint32Array(3)).join("-")}-n`;
  const made: Schemas["Entry"] = { uid, what: "note", subject: entry.subject, ago_s: 0, reason: entry.reason || null, photos: entry.photos, readings: [] };
  return told(api.POST("/api/rigs/{key}/log", { params: { path: { key: rig } }, body: { revision, person: entry.person, entries: [made] } }));
};
