import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const powerQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["power", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/power", { body: { document: rig }, ...followed("power", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
