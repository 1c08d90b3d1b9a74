import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const balanceQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["balance", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/balance", { body: { document: rig }, ...followed("balance", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
