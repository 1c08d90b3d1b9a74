import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";

export const alternativesQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["alternatives", JSON.stringify(rig)],
    queryFn: () => told(api.POST("/api/alternatives", { body: { document: rig, count: 5 } })),
    staleTime: Infinity,
    retry: false,
  });

export const waysQuery = (rig: Rig, promise: string) =>
  queryOptions({
    queryKey: ["picture-ways", JSON.stringify(rig), promise],
    queryFn: () => told(api.POST("/api/picture-ways", { body: { document: rig, promise } })),
    staleTime: Infinity,
    retry: false,
  });
