import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Problem, type Profile } from "../../api/client";

export const profileOf = (id: string) =>
  told(api.GET("/api/workshop/profiles/{key}", { params: { path: { key: id } } })) as Promise<Profile>;

export type Checks = { text: string; problems: Problem[] };

/** The profile as it stands, checked while it is written: JSON is YAML too. */
export const checkQuery = (draft: Profile | undefined) =>
  queryOptions({
    queryKey: ["check", JSON.stringify(draft)],
    queryFn: async (): Promise<Checks> => {
      const { text, problems } = await told(api.POST("/api/workshop/check", { body: { text: JSON.stringify(draft), file: "" } }));
      return { text: text ?? "", problems };
    },
    enabled: draft !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });

/** Keep documents; `over` says by id on which revisions those were made that are kept already. */
export const keepPack = (text: string, file: string, over: Record<string, number> = {}) =>
  told(api.POST("/api/workshop/keep", { body: { text, file, over } }));

export const dropWords = (id: string) => told(api.DELETE("/api/own/words/{key}", { params: { path: { key: id } } }));

export const tryIt = (draft: Profile, rig: string, insteadOf: string | null) =>
  told(api.POST("/api/workshop/try", { body: { text: JSON.stringify(draft), rig, instead_of: insteadOf } }));
