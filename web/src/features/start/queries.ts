import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";

const at = (id: string) => ({ params: { path: { key: id } } });

export const addRig = (text: string, file: string) => told(api.POST("/api/rigs", { body: { text, file } }));

export const startRig = (document: Rig) => told(api.POST("/api/new-rig", { body: { document } }));

export const restoreRig = (id: string) => told(api.POST("/api/rigs/{key}/restore", at(id)));

export const removeRig = (id: string) => told(api.DELETE("/api/rigs/{key}", at(id)));

export const binQuery = queryOptions({ queryKey: ["bin"], queryFn: () => told(api.GET("/api/bin")) });

export const throwAway = (id: string) => told(api.DELETE("/api/bin/{key}", at(id)));

/** How the data stands: what was mended when it was opened, and what of it cannot be read. */
export const stateQuery = queryOptions({ queryKey: ["state"], queryFn: () => told(api.GET("/api/state")) });

export const examplesQuery = queryOptions({
  queryKey: ["examples"],
  queryFn: () => told(api.GET("/api/examples")),
  staleTime: Infinity,
});

export const openExample = (id: string) => told(api.POST("/api/examples/{example_id}/open", { params: { path: { example_id: id } } }));
