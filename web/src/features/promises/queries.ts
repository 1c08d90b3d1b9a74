import { queryOptions } from "@tanstack/react-query";

import { api, told, type Change, type Rig } from "../../api/client";

export const takesQuery = (rig: Rig, promise: string) =>
  queryOptions({
    queryKey: ["takes", JSON.stringify(rig), promise],
    queryFn: () => told(api.POST("/api/takes", { body: { document: rig, promise } })),
    staleTime: Infinity,
    retry: false,
  });

export const changedRig = (rig: Rig, changes: readonly Change[]) =>
  told(api.POST("/api/changes", { body: { document: rig, changes: [...changes] } }));
