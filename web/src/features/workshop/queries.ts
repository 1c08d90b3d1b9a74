import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Problem, type Profile } from "../../api/client";

export const profileOf = (id: string) =>
  told(api.GET("/api/workshop/profiles/{profile_id}", { params: { path: { profile_id: id } } })) as Promise<Profile>;

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

export const keepPack = (text: string, file: string) => told(api.POST("/api/workshop/keep", { body: { text, file } }));

export const dropWords = (id: string) => told(api.DELETE("/api/workshop/words/{words_id}", { params: { path: { words_id: id } } }));

export const tryIt = (draft: Profile, rig: string, insteadOf: string | null) =>
  told(api.POST("/api/workshop/try", { body: { text: JSON.stringify(draft), rig, instead_of: insteadOf } }));
