import { queryOptions } from "@tanstack/react-query";

import { api, told, type Rig, type Schemas } from "../../api/client";
import type { Answer, Level } from "./model";

const at = (exercise: string) => ({ params: { path: { exercise } } });

export const levelsQuery = queryOptions({
  queryKey: ["levels"],
  queryFn: () => told(api.GET("/api/training/levels")),
  staleTime: Infinity,
});

export const progressQuery = (who: string) =>
  queryOptions({
    queryKey: ["progress", who],
    queryFn: () => told(api.GET("/api/training/progress", { params: { query: who ? { who } : {} } })),
  });

export const exerciseQuery = (id: string) =>
  queryOptions({
    queryKey: ["exercise", id],
    queryFn: () => told(api.GET("/api/exercises/{exercise}", at(id))),
    staleTime: Infinity,
    retry: false,
  });

export const choicesQuery = (id: string) =>
  queryOptions({
    queryKey: ["exercise", id, "choices"],
    queryFn: () => told(api.GET("/api/exercises/{exercise}/choices", at(id))),
    staleTime: Infinity,
    retry: false,
  });

export const exerciseRigQuery = (id: string) =>
  queryOptions({
    queryKey: ["exercise", id, "beginning"],
    queryFn: () => told(api.GET("/api/exercises/{exercise}/beginning", at(id))),
    staleTime: Infinity,
    retry: false,
  });

export const beginExercise = (document: Rig, level: Level, seed: number) =>
  told(api.POST("/api/exercises", { body: { document, level, seed } }));

export const beginByCode = (code: string) => told(api.POST("/api/training/by-code", { body: { code } }));

/** The same under one's hands: a bench with something wrong, or a rig in its cases that nobody tells how to build. */
export const beginAtBench = (document: Rig, how: { hunt?: Schemas["Exercise"]; blind?: boolean }) =>
  told(api.POST("/api/benches", { body: { document, start: "cases", rehearses: false, blind: false, ...how } }));

/** An exercise that was begun in words, under one's hands. */
export const sameAtBench = async (id: string) => {
  const { document, exercise } = await told(api.GET("/api/exercises/{exercise}/beginning", at(id)));
  return beginAtBench(document as Rig, { hunt: exercise });
};

export const answerExercise = (id: string, answer: Answer) =>
  told(api.POST("/api/exercises/{exercise}/answers", { ...at(id), body: { answer } }));
