import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const adviceQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["advice", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/advice", { body: { document: rig }, ...followed("schools", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
