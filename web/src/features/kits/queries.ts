import type { QueryClient } from "@tanstack/react-query";

import { api, told, type Day, type Kit, type KitPreview } from "../../api/client";
import type { Keeper } from "../../keeping";
import { cablesLaid, followed, kitsQuery } from "../../rig";

const at = (id: string) => ({ params: { path: { key: id } } });

export const addKit = (document: Kit) => told(api.POST("/api/kits", { body: { document } }));

/** How a kit is kept. */
export const kitKeeper = (id: string, client: QueryClient): Keeper<Kit> => ({
  path: `kit/${id}`,
  save: (document, madeOn) => told(api.PUT("/api/kits/{key}", { ...at(id), body: { made_on: madeOn, document } })),
  aside: (document, madeOn, newest) => told(api.PUT("/api/kits/{key}/aside", { ...at(id), body: { made_on: madeOn, newest, document } })),
  move: (by, madeOn) =>
    by === "undo"
      ? told(api.POST("/api/kits/{key}/undo", { ...at(id), body: { made_on: madeOn } }))
      : told(api.POST("/api/kits/{key}/redo", { ...at(id), body: { made_on: madeOn } })),
  backTo: (revision, madeOn) => told(api.POST("/api/kits/{key}/back-to", { ...at(id), body: { made_on: madeOn, revision } })),
  revision: (number) => told(api.GET("/api/kits/{key}/revisions/{number}", { params: { path: { key: id, number } } })),
  history: (before) => told(api.GET("/api/kits/{key}/history", { params: { ...at(id).params, query: { before } } })),
  fetch: () => told(api.GET("/api/kits/{key}", at(id))),
  onSaved: () => void client.invalidateQueries({ queryKey: kitsQuery.queryKey }),
});

export type List = {
  text: string;
  file: string;
  columns: KitPreview["columns"] | null;
  chosen: Record<string, string>;
  left_out: number[];
};

export const previewList = (id: string, list: List) => told(api.POST("/api/kits/{key}/preview", { ...at(id), body: list }));

export const takeListIn = (id: string, list: List, madeOn: number) =>
  told(api.POST("/api/kits/{key}/list", { ...at(id), body: { ...list, made_on: madeOn } }));

export const planDay = (id: string, rigs: string[], signal: AbortSignal) => {
  const search = followed("day", signal);
  const params = { ...at(id).params, ...search.params };
  return told(api.POST("/api/kits/{key}/day", { params, signal, body: { rigs } }));
};

/** Give rigs their share of a kit, all of them or none: each bag holds what its plan lays, and no more. */
export async function giveShares(day: Day): Promise<void> {
  const edits = await Promise.all(
    day.rigs.map(async (one) => {
      const saved = await told(api.GET("/api/rigs/{key}", { params: { path: { key: one.rig } } }));
      const bag = [...cablesLaid(one.plan)].map(([cable, count]) => ({ cable, count }));
      return { made_on: saved.revision, document: { ...saved.document, bag } };
    }),
  );
  await told(api.PUT("/api/shares", { body: { edits } }));
}
