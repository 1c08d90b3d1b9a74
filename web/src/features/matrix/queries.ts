import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";

export const matrixQuery = (rig: Rig, device: string, mode: string | null) =>
  queryOptions({
    queryKey: ["matrix", JSON.stringify(rig), device, mode],
    queryFn: ({ signal }) => told(api.POST("/api/matrix", { body: { document: rig, device, mode }, ...followed("matrix", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
