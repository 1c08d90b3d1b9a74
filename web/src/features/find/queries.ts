import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig, type Schemas } from "../../api/client";
import type { Answered, Standing } from "./model";

const seenOf = (search: readonly Answered[]) => search.map(({ look, answer, saw, times }) => ({ look, answer, saw, times }));

/** What could be wrong, after what was seen. The last answer stays in sight while the next is worked out. */
export const findQuery = (rig: Rig, standing: Standing, search: readonly Answered[]) => {
  const body = { document: rig, ...standing, seen: seenOf(search) };
  return queryOptions({
    queryKey: ["find", JSON.stringify(body)],
    queryFn: ({ signal }) => told(api.POST("/api/find", { body, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
};

/** All that can be seen of a rig that tells something. */
export const sightsQuery = (rig: Rig, standing: Standing) => {
  const body = { document: rig, ...standing };
  return queryOptions({
    queryKey: ["sights", JSON.stringify(body)],
    queryFn: ({ signal }) => told(api.POST("/api/find/sights", { body, signal })),
    staleTime: Infinity,
    retry: false,
  });
};

/** The short sheet that mends causes. */
export const cureQuery = (rig: Rig, standing: Standing, causes: string[]) => {
  const body: Schemas["ToMend"] = { document: rig, ...standing, causes };
  return queryOptions({
    queryKey: ["cure", JSON.stringify(body)],
    queryFn: ({ signal }) => told(api.POST("/api/find/cure", { body, signal })),
    staleTime: Infinity,
    retry: false,
  });
};

/** What people say unasked. */
export const symptomsQuery = (text: string) =>
  queryOptions({
    queryKey: ["symptoms", text],
    queryFn: ({ signal }) => told(api.GET("/api/symptoms", { params: { query: { text } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
