import { queryOptions } from "@tanstack/react-query";

import { api, told, type Schemas } from "../../api/client";

export type Tried = Schemas["Tried"];
export type Recipe = Tried["saved"]["document"];

export const recipesQuery = queryOptions({ queryKey: ["recipes"], queryFn: () => told(api.GET("/api/recipes")) });

export const addRecipe = (document: Recipe) => told(api.POST("/api/recipes", { body: { document } }));

export const saveRecipe = (document: Recipe, madeOn: number) =>
  told(api.PUT("/api/recipes/{key}", { params: { path: { key: document.id } }, body: { made_on: madeOn, document } }));

export const removeRecipe = (key: string) => told(api.DELETE("/api/recipes/{key}", { params: { path: { key } } }));

export const restoreRecipe = (key: string) => told(api.POST("/api/recipes/{key}/restore", { params: { path: { key } } }));

/** What was done on a rig today, oldest first, to make steps of. */
export const doneToday = async (rig: string, day: string) =>
  (await told(api.GET("/api/log", { params: { query: { rig, day, count: 200 } } })))
    .filter(({ what }) => ["done", "note", "restarted", "battery-changed"].includes(what))
    .reverse();

/** Count a try: did it work, on which rig, and what was noted. */
export const countTry = (rig: string, revision: number, recipe: string, worked: boolean, reason: string, person: string) => {
  const uid = `${crypto.getRandomValues(new Uint32Array(3)).join("-")}-t`;
  const entry: Schemas["Entry"] = {
    uid,
    what: "tried",
    subject: recipe,
    ago_s: 0,
    reason: reason.trim() || null,
    readings: [],
    photos: [],
    worked,
  };
  return told(api.POST("/api/rigs/{key}/log", { params: { path: { key: rig } }, body: { revision, person, entries: [entry] } }));
};
