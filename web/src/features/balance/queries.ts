import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Rig } from "../../api/client";
import { followed } from "../../rig";
import { asked, type Attempt, type Gimbal } from "./model";

export const balanceQuery = (rig: Rig) =>
  queryOptions({
    queryKey: ["balance", JSON.stringify(rig)],
    queryFn: ({ signal }) => told(api.POST("/api/balance", { body: { document: rig }, ...followed("balance", signal) })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** What a change would do to the marks of a gimbal. */
export const tryQuery = (rig: Rig, gimbal: Gimbal, attempt: Attempt) => {
  const body = { document: rig, attempt: asked(gimbal, attempt) };
  return queryOptions({
    queryKey: ["balance-try", JSON.stringify(body)],
    queryFn: ({ signal }) => told(api.POST("/api/balance/try", { body, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
};
