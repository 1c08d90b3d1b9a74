import type { Schemas } from "../../api/client";

export type ExerciseState = Schemas["ExerciseState"];
export type ExerciseLine = Schemas["ExerciseLine"];
export type Choices = Schemas["ExerciseChoices"];
export type Suspect = Schemas["Suspect"];
export type Sight = Schemas["Sight"];
export type Told = Schemas["ToldInTraining"];
export type Answer = Schemas["WhatTrainee"]["answer"];
export type Level = ExerciseLine["level"];

/** One of the seeds that a code has room for. */
export const SEEDS = 2 ** 17;
export const drawn = (chance: number) => Math.floor(chance * SEEDS);

/** Minutes and seconds, as a stop watch has them. */
export const watch = (seconds: number) => {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
};

/** What could be wrong at a device, or by words; nothing is said before somebody asks. */
export function suspectsFor(suspects: readonly Suspect[], device: string | undefined, words: string): Suspect[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  if (!device && wanted.length === 0) return [];
  return suspects.filter(
    (one) => (!device || (one.devices ?? []).includes(device)) && wanted.every((word) => one.says.toLowerCase().includes(word)),
  );
}

/** Devices about which something can be looked at or mended, in the order in which they first turn up. */
export function devicesOf(choices: Choices): string[] {
  const those = [...choices.sights.map(({ device }) => device), ...choices.suspects.flatMap(({ devices }) => devices)];
  return [...new Set(those.filter((one): one is string => Boolean(one)))].sort();
}

/** A row of two ways side by side: one's own and the finder's, step by step. */
export function sideBySide<Own, Other>(own: readonly Own[], other: readonly Other[]): [Own | undefined, Other | undefined][] {
  return Array.from({ length: Math.max(own.length, other.length) }, (_, row) => [own[row], other[row]]);
}

/** A kind of fault as one says it: its condition's word and what was wrong with it. */
export const kindWords = (kind: string) => kind.replace(/[/-]/g, " ");
