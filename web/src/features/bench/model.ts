import type { DeviceView, Run } from "../../api/client";

export const SPEEDS = [1, 4, 16] as const;
export type Speed = (typeof SPEEDS)[number];

/** How every device looks when `shown` frames of a run have been played. */
export function looksAt(run: Run, shown: number): DeviceView[] {
  const looks = new Map(run.start.map((look) => [look.device, look]));
  for (const frame of run.frames.slice(0, shown)) for (const look of frame.changed) looks.set(look.device, look);
  return [...looks.values()];
}

/** How long a frame stays in sight: a proof longer than a step, all shorter at higher speed. */
export function frameMs(run: Run, shown: number, speed: Speed): number {
  const frame = run.frames[shown];
  return (frame?.proof ? 1600 : 800) / speed;
}

/** A clock as minutes and seconds. */
export function clock(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
