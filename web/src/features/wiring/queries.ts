import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const joinQuery = (rig: Rig, link: string) =>
  queryOptions({
    queryKey: ["join", JSON.stringify(rig), link],
    queryFn: ({ signal }) => told(api.POST("/api/join", { body: { document: rig, link }, signal })),
    staleTime: Infinity,
    retry: false,
  });

export const pinsQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["pins", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/pins", { body: { document: rig }, ...followed("pins", signal) })),
    placeholderData: (old) => old,
    staleTime: Infinity,
    retry: false,
  });
