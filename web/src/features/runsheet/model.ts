import type { Step } from "../../api/client";

export const STAGE_NAMES: Record<Step["stage"], string> = {
  gather: "Gather",
  build: "Build",
  "inner-cables": "Cables in the cage",
  balance: "Balance",
  "outer-cables": "Cables that leave the cage",
  menus: "Menus",
  wake: "Wake",
  pair: "Pair",
  lens: "Lens",
  prove: "Prove",
};

/** The steps of a sheet in runs of the same stage. */
export function byStage(steps: readonly Step[]): { stage: Step["stage"]; steps: Step[] }[] {
  const runs: { stage: Step["stage"]; steps: Step[] }[] = [];
  for (const step of steps) {
    const last = runs.at(-1);
    if (last?.stage === step.stage) last.steps.push(step);
    else runs.push({ stage: step.stage, steps: [step] });
  }
  return runs;
}

/** The first step that is not ticked; the last one when all are. */
export function nextOpen(steps: readonly Step[], ticks: Record<string, string>): number {
  const open = steps.findIndex((step) => !(step.id in ticks));
  return open === -1 ? Math.max(0, steps.length - 1) : open;
}

/** Seconds as people say them. */
export function spoken(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return `${Math.round(seconds / 60)} min`;
}
