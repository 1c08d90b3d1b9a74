import { queryOptions } from "@tanstack/react-query";

import { api, told, type Schemas } from "../../api/client";

export type Wanted = { rig?: string; person?: string; device?: string; what?: string; words?: string; day?: string; with_photo?: boolean };

export const PAGE = 100;

/** A page of the log book, the newest first; all before a number where that is given. */
export const linesOf = (wanted: Wanted, before: number | undefined, signal: AbortSignal | undefined) =>
  told(api.GET("/api/log", { params: { query: { ...wanted, before, count: PAGE } }, signal }));

/** Every line of a day, the first of it first. */
export async function wholeDay(wanted: Pick<Wanted, "day" | "rig">) {
  const lines: Schemas["Line"][] = [];
  for (let before: number | undefined; ;) {
    const page = await linesOf(wanted, before, undefined);
    lines.push(...page);
    before = page.at(-1)?.sequence;
    if (page.length < PAGE) return lines.toReversed();
  }
}

export const choicesQuery = queryOptions({ queryKey: ["log", "choices"], queryFn: () => told(api.GET("/api/log/choices")) });

/** Write a note about a rig, or a device of it. */
export const note = (rig: string, revision: number, entry: { subject: string; reason: string; photos: string[]; person: string }) => {
  const uid = `${crypto.getRandomValues(new Uint32Array(3)).join("-")}-n`;
  const made: Schemas["Entry"] = {
    uid,
    what: "note",
    subject: entry.subject,
    ago_s: 0,
    reason: entry.reason || null,
    photos: entry.photos,
    readings: [],
  };
  return told(
    api.POST("/api/rigs/{key}/log", { params: { path: { key: rig } }, body: { revision, person: entry.person, entries: [made] } }),
  );
};
