import type { Schemas } from "../../api/client";
import { clock, minutesFrom, type Block, type Job, type JobDay } from "./model";

export type Rota = Schemas["DayRota"];
export type SeatRow = Schemas["SeatRow"];
export type RotaAct = Schemas["RotaAct"];
export type Happened = NonNullable<JobDay["happened"]>[number];

/** What is to be done, by the time of day at which it is. */
export function byClock(acts: readonly RotaAct[]): { clock: string; at: number; acts: RotaAct[] }[] {
  const times = [...new Set(acts.map((one) => one.at_min))].sort((one, other) => one - other);
  return times.map((at) => {
    const those = acts.filter((one) => one.at_min === at);
    return { clock: those[0]!.clock, at, acts: those };
  });
}

/** The batteries of which there is something to see: they are changed, charged, or go dark. */
export const busy = (rota: Rota): SeatRow[] =>
  rota.seats.filter(
    (one) =>
      one.stints.length > 1 || one.dark.length > 0 || rota.chargers.some((each) => each.charges.some((span) => isIn(one, span.pack))),
  );

const isIn = (seat: SeatRow, pack: string) => seat.stints.some((one) => one.pack === pack);

/** The others: each lasts the day as it is. */
export const quiet = (rota: Rota): SeatRow[] => {
  const seen = new Set(busy(rota).map((one) => one.key));
  return rota.seats.filter((one) => !seen.has(one.key));
};

/** What was said last of a pack that was put in, to be taken back. */
export const saidOf = (day: JobDay, act: RotaAct): Happened | undefined =>
  (day.happened ?? []).findLast(
    (one) => one.kind === "changed" && one.rig === act.rig && one.device === act.device && one.pack === act.pack,
  );

/** When something was said last of a day; nothing before it began. */
export function lastSaid(day: JobDay | undefined): string | undefined {
  const call = day?.call ?? "00:00";
  return (day?.happened ?? [])
    .map((one) => one.at)
    .sort((one, other) => minutesFrom(call, one) - minutesFrom(call, other))
    .at(-1);
}

/** The block that is on at a time. */
export const blockAt = (day: JobDay, now: string): Block | undefined => {
  const call = day.call ?? now;
  const at = minutesFrom(call, now);
  return (day.blocks ?? []).find((one) => minutesFrom(call, one.begins) <= at && at < minutesFrom(call, one.ends));
};

/** `day` with a block that goes on longer: what comes after it, meals too, comes so much later; the wrap as well. */
export function longer(day: JobDay, block: Block, minutes: number): Partial<JobDay> {
  const call = day.call!;
  const end = minutesFrom(call, block.ends);
  const later = (time: string) => (minutesFrom(call, time) >= end ? clock(call, minutesFrom(call, time) + minutes) : time);
  const moved = <Span extends { begins: string; ends: string }>(span: Span): Span => ({
    ...span,
    begins: later(span.begins),
    ends: later(span.ends),
  });
  return {
    blocks: (day.blocks ?? []).map((one) =>
      one === block ? { ...one, ends: later(one.ends) } : { ...moved(one), pauses: (one.pauses ?? []).map(moved) },
    ),
    meals: (day.meals ?? []).map(moved),
    wrap: day.wrap ? later(day.wrap) : day.wrap,
  };
}

/** From when to when there is mains, of when there is none. */
export function powered(rota: Rota): { begins: number; ends: number }[] {
  const found: { begins: number; ends: number }[] = [];
  let at = 0;
  for (const one of rota.mains) {
    if (one.begins_min > at) found.push({ begins: at, ends: one.begins_min });
    at = one.ends_min;
  }
  if (at < rota.lasts_min) found.push({ begins: at, ends: rota.lasts_min });
  return found;
}

export const dayOf = (job: Job, number: number): JobDay | undefined => (job.days ?? [])[number];

/** The time of day by the clock of this machine. */
export const clockNow = () => new Date().toTimeString().slice(0, 5);

export const percent = (share: number) => `${Math.round(share)} %`;
