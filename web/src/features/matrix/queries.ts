import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";

export const matrixQuery = (rig: Rig, device: string) =>
  queryOptions({
    queryKey: ["matrix", JSON.stringify(rig), device],
    queryFn: () => told(api.POST("/api/matrix", { body: { document: rig, device } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
