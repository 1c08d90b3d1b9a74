import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { doneAgo } from "./crew";

type Mark = { what: string; at: string; person: string };

/** The sheet dealt out to people; asked again whenever something is ticked or given. */
export const crewQuery = (rig: Rig, people: string[], given: Record<string, string>, marks: Record<string, Mark>, whole: boolean) =>
  queryOptions({
    queryKey: [
      "crew",
      rig.id,
      JSON.stringify([rig, people, given, Object.entries(marks).map(([step, mark]) => [step, mark.what, mark.at]), whole]),
    ],
    queryFn: ({ signal }) =>
      told(api.POST("/api/crew", { body: { document: rig, people, given, done_ago_s: doneAgo(marks, Date.now()), whole }, signal })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
  });
