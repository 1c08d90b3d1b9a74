import type { Saved, Schemas } from "../../api/client";

export type Job = Schemas["Job"];
export type JobDay = Schemas["JobDay"];
export type JobPlace = Schemas["JobPlace"];
export type JobPerson = Schemas["JobPerson"];
export type Block = Schemas["Block"];
export type RigUse = Schemas["BlockRig"]["use"];

export const USES: { value: NonNullable<RigUse>; label: string }[] = [
  { value: "rolling", label: "rolling" },
  { value: "standby", label: "standby" },
  { value: "moving", label: "moving" },
  { value: "off", label: "off" },
];

export const bare = (date: string): JobDay => ({ date, meals: [], blocks: [], happened: [] });

export const begun = (name: string, days: readonly string[] = []): Job => ({
  format: "isotact/job",
  version: 2,
  id: "job",
  name,
  days: days.map(bare),
  places: [],
  people: [],
  packs: { packs_move: true, part_charges: true, charge_at_meals: true, walk_min: 5 },
});

/** The jobs that rigs name and no document tells of. */
export function unwritten(rigs: readonly Saved[], jobs: readonly { document: Job }[]): { name: string; days: string[] }[] {
  const written = new Set(jobs.map((one) => one.document.name));
  const names = [...new Set(rigs.flatMap((one) => one.document.production ?? []))].filter((name) => !written.has(name));
  return names.map((name) => ({
    name,
    days: [...new Set(rigs.filter((one) => one.document.production === name).flatMap((one) => one.document.days ?? []))].sort(),
  }));
}

export const rigsOf = (rigs: readonly Saved[], job: Job) =>
  rigs
    .filter((one) => one.document.production === job.name)
    .sort((one, other) => one.document.camera!.localeCompare(other.document.camera!));

/** `18:30` of what somebody typed; nothing while it is no time yet. */
export function timeOf(words: string): string | undefined {
  const found = /^([01]?\d|2[0-3])[:.]?([0-5]\d)$/.exec(words.trim());
  return found ? `${found[1]!.padStart(2, "0")}:${found[2]}` : undefined;
}

const minute = (time: string) => 60 * Number(time.slice(0, 2)) + Number(time.slice(3));

/** Minutes from the call to a time of that day, or of the morning after it. */
export const minutesFrom = (call: string, time: string) => (((minute(time) - minute(call)) % 1440) + 1440) % 1440;

export const clock = (call: string, minutes: number) => {
  const at = (minute(call) + minutes) % 1440;
  return `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
};

export const dateWords = (date: string) =>
  new Date(`${date}T12:00:00`).toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short" });

/** `job` with one of its places changed, or without it: days and blocks that name it go with it. */
export function withPlace(job: Job, number: number, next: JobPlace | undefined): Job {
  const places = job.places ?? [];
  const was = places[number]!.name;
  const renamed = (place: string | null | undefined) => (place === was ? (next?.name ?? null) : place);
  return {
    ...job,
    places: places.flatMap((one, at) => (at === number ? (next ? [next] : []) : [one])),
    days: (job.days ?? []).map((day) => ({
      ...day,
      place: renamed(day.place),
      blocks: (day.blocks ?? []).map((block) => ({ ...block, place: renamed(block.place) })),
    })),
  };
}

/** A name that none of `taken` is, such as `Place 2`. */
export function freeName(word: string, taken: readonly string[]): string {
  const free = Array.from({ length: taken.length + 1 }, (_, at) => `${word} ${at + 1}`);
  return free.find((one) => !taken.includes(one))!;
}

/** `job` with one of its days changed. */
export function withDay(job: Job, number: number, change: Partial<JobDay>): Job {
  return { ...job, days: (job.days ?? []).map((day, at) => (at === number ? { ...day, ...change } : day)) };
}

/** `job` with another day: the one after its last, with the same call and wrap. */
export function withNextDay(job: Job, today: string): Job {
  const days = job.days ?? [];
  const last = days.at(-1);
  const next = last ? new Date(`${last.date}T12:00:00Z`) : new Date(`${today}T12:00:00Z`);
  if (last) next.setUTCDate(next.getUTCDate() + 1);
  return { ...job, days: [...days, { ...bare(next.toISOString().slice(0, 10)), call: last?.call, wrap: last?.wrap, place: last?.place }] };
}

/** `day` with one more block after its last, an hour long or to the wrap, with `rigs` rolling. */
export function withNextBlock(day: JobDay, rigs: readonly string[]): JobDay {
  const call = day.call ?? "08:00";
  const wrap = minutesFrom(call, day.wrap ?? clock(call, 600));
  const ends = Math.max(0, ...(day.blocks ?? []).map((one) => minutesFrom(call, one.ends)));
  const from = Math.min(ends, Math.max(0, wrap - 15));
  const block = {
    name: `Block ${(day.blocks ?? []).length + 1}`,
    begins: clock(call, from),
    ends: clock(call, Math.min(wrap, from + 60)),
    rigs: rigs.map((rig) => ({ rig, use: "rolling" as const, rolling_percent: 30 })),
    pauses: [],
  };
  return { ...day, call, wrap: day.wrap ?? clock(call, 600), blocks: [...(day.blocks ?? []), block] };
}

/** `block` with one rig used otherwise; `none` takes it out. */
export function withUse(block: Block, rig: string, use: string): Block {
  const others = (block.rigs ?? []).filter((one) => one.rig !== rig);
  if (use === "none") return { ...block, rigs: others };
  const before = (block.rigs ?? []).find((one) => one.rig === rig);
  return { ...block, rigs: [...others, { rolling_percent: 30, ...before, rig, use: use as NonNullable<RigUse> }] };
}
