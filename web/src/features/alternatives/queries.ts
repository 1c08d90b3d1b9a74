import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const alternativesQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["alternatives", JSON.stringify(rig)],
    queryFn: ({ signal }) =>
      told(api.POST("/api/alternatives", { body: { document: rig, count: 5 }, ...followed("alternatives", signal) })),
    staleTime: Infinity,
    retry: false,
  });

export const waysQuery = (rig: Rig, promise: string) =>
  queryOptions({
    queryKey: ["picture-ways", JSON.stringify(rig), promise],
    queryFn: ({ signal }) => told(api.POST("/api/picture-ways", { body: { document: rig, promise }, ...followed("ways", signal) })),
    staleTime: Infinity,
    retry: false,
  });
