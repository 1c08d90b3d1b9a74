import type { ComponentType } from "react";

import type { Answer, Rig, Run } from "../api/client";
import type { PromiseState } from "./model";

/** What a screen may tell of itself in the rail. */
export type Standing = {
  rig: Rig;
  answer: Answer | undefined;
  ticks: Record<string, string>;
  run: Run | undefined;
  states: Record<string, PromiseState>;
};

/** What a stage is for: to think it out, to build it up, to show that it works. */
export type Part = "Plan" | "Build" | "Prove";
export const PARTS: readonly Part[] = ["Plan", "Build", "Prove"];

/** One stage of the work: its place, its name, its key, and what the rail says under the name. */
export type Screen = {
  path: string;
  name: string;
  key: string;
  part: Part;
  /** Whether it is of use on a phone. */
  small: boolean;
  /** What it works on; where that is missing, the stage leads there instead. */
  needs?: "devices" | "promises";
  tells: (standing: Standing) => string;
  /** Its code is fetched when somebody goes there for the first time. */
  load: () => Promise<{ Component: ComponentType }>;
};
