import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";

export const adviceQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["advice", JSON.stringify(rig)],
    queryFn: () => told(api.POST("/api/advice", { body: { document: rig } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
