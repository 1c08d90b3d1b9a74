import { queryOptions } from "@tanstack/react-query";

import { api, told, type Change, type Rig, type Schemas } from "../../api/client";
import { followed } from "../searching";

export type Suggestion = Schemas["Suggestion"];
export type FromShelf = Schemas["FromShelf"];

export const takesQuery = (rig: Rig, promise: string) =>
  queryOptions({
    queryKey: ["takes", JSON.stringify(rig), promise],
    queryFn: ({ signal }) => told(api.POST("/api/takes", { body: { document: rig, promise }, ...followed("takes", signal) })),
    staleTime: Infinity,
    retry: false,
  });

export const changedRig = (rig: Rig, changes: readonly Change[]) =>
  told(api.POST("/api/changes", { body: { document: rig, changes: [...changes] } }));

/** What typed words could promise: `who` is meant where they name nobody. */
export const suggestQuery = (rig: Rig, text: string, who: string) =>
  queryOptions({
    queryKey: ["suggest", JSON.stringify([rig.devices, rig.promises]), text, who],
    queryFn: () => told(api.POST("/api/promising", { body: { document: rig, text, who } })),
    staleTime: Infinity,
    retry: false,
  });

export const recipeOf = (key: string) =>
  told(api.GET("/api/recipes/{key}", { params: { path: { key } } })).then(({ document }) => document);

/** `rig` with one of its promises resting on a recipe, in the place of another on which it rested. */
export const withRecipe = (rig: Rig, offer: Schemas["Offer"], recipe: Schemas["Recipe"]): Rig => ({
  ...rig,
  recipes: [
    ...(rig.recipes ?? []).filter((one) => one.promise !== offer.promise),
    { promise: offer.promise, recipe, devices: [...(offer.devices ?? [])], worked: offer.rate.worked, tries: offer.rate.tries },
  ],
});
