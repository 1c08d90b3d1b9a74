import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, told, type Face, type Problem, type Profile } from "../../api/client";

export const profileOf = (id: string) =>
  told(api.GET("/api/workshop/profiles/{key}", { params: { path: { key: id } } })) as Promise<Profile>;

export type Checks = { text: string; problems: Problem[]; face: Face | undefined };

/** The profile as it stands, checked while it is written: JSON is YAML too. */
export const checkQuery = (draft: Profile | undefined) =>
  queryOptions({
    queryKey: ["check", JSON.stringify(draft)],
    queryFn: async (): Promise<Checks> => {
      const { text, problems, face } = await told(api.POST("/api/workshop/check", { body: { text: JSON.stringify(draft), file: "" } }));
      return { text: text ?? "", problems, face: (face as Face | null) ?? undefined };
    },
    enabled: draft !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });

/** Keep documents; `over` says by id on which revisions those were made that are kept already. */
export const keepPack = (text: string, file: string, over: Record<string, number> = {}) =>
  told(api.POST("/api/workshop/keep", { body: { text, file, over } }));

export const ownProfilesQuery = queryOptions({ queryKey: ["own", "profiles"], queryFn: () => told(api.GET("/api/own/profiles")) });

/** The newest revision of everything of one's own, by id. */
export async function headsOfOwn(): Promise<Record<string, number>> {
  const [profiles, cables, words] = await Promise.all([
    told(api.GET("/api/own/profiles")),
    told(api.GET("/api/own/cables")),
    told(api.GET("/api/own/words")),
  ]);
  return Object.fromEntries([...profiles, ...cables, ...words].map((one) => [one.document.id, one.revision]));
}

const at = (id: string) => ({ params: { path: { key: id } } });

export const dropProfile = (id: string) => told(api.DELETE("/api/own/profiles/{key}", at(id)));

export const bringProfileBack = (id: string) => told(api.POST("/api/own/profiles/{key}/restore", at(id)));

export const undoProfile = (id: string, madeOn: number) =>
  told(api.POST("/api/own/profiles/{key}/undo", { ...at(id), body: { made_on: madeOn } }));

export const dropWords = (id: string) => told(api.DELETE("/api/own/words/{key}", { params: { path: { key: id } } }));

export const tryIt = (draft: Profile, rig: string, insteadOf: string | null) =>
  told(api.POST("/api/workshop/try", { body: { text: JSON.stringify(draft), rig, instead_of: insteadOf } }));
