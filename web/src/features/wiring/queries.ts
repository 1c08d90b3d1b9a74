import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";

export const joinQuery = (rig: Rig, link: string) =>
  queryOptions({
    queryKey: ["join", JSON.stringify(rig), link],
    queryFn: () => told(api.POST("/api/join", { body: { document: rig, link } })),
    staleTime: Infinity,
    retry: false,
  });

export const pinsQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["pins", JSON.stringify(rig)],
    queryFn: () => told(api.POST("/api/pins", { body: { document: rig } })),
    enabled: (rig.pins ?? []).length > 0,
    placeholderData: (old) => old,
    staleTime: Infinity,
    retry: false,
  });
