import type { Rig, Saved } from "../../api/client";
import { LETTERS } from "../../rig";

export type Job = { name: string; days: string[]; rigs: Saved[] };

export const NO_JOB = "No job yet";

/** The rigs by the job that they belong to, the job changed last first. */
export function jobsOf(rigs: readonly Saved[]): Job[] {
  const jobs = new Map<string, Saved[]>();
  for (const saved of rigs) {
    const name = saved.document.production ?? NO_JOB;
    jobs.set(name, [...(jobs.get(name) ?? []), saved]);
  }
  const newest = (job: Job) =>
    job.rigs
      .map((one) => one.made_at)
      .sort()
      .at(-1) ?? "";
  return [...jobs]
    .map(([name, those]) => ({ name, rigs: those, days: [...new Set(those.flatMap((one) => one.document.days ?? []))].sort() }))
    .sort((one, other) => newest(other).localeCompare(newest(one)));
}

/** The day at hand of a job: today or the next that is planned, else its last; nothing when it has no days. */
export function dayAtHand(job: Job, today: string): string {
  return job.days.find((day) => day >= today) ?? job.days.at(-1) ?? "";
}

/** The job at hand: one that works today, else the one changed last. */
export function jobAtHand(jobs: readonly Job[], today: string): Job | undefined {
  return jobs.find((job) => job.days.includes(today)) ?? jobs[0];
}

/** The rigs used on a day; one without days is used on all of them. */
export function rigsOn(job: Job, day: string): Saved[] {
  const used = job.rigs.filter(({ document: rig }) => !day || (rig.days ?? []).length === 0 || (rig.days ?? []).includes(day));
  return used.sort((one, other) => one.document.camera!.localeCompare(other.document.camera!));
}

/** The first camera letter that no rig of the job has. */
export function freeLetter(job: Job | undefined): string {
  const taken = new Set(job?.rigs.map((one) => one.document.camera));
  return LETTERS.find((letter) => !taken.has(letter)) ?? "Z";
}

/** A day in words: Mon 4 May. */
export function dayWords(day: string): string {
  return new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short" });
}

export type Begun = { name: string; camera: string; job: string; day: string };

/** A rig to begin with, named as it is wanted; an empty name is made of job and camera. */
export function begun(rig: Pick<Rig, "devices" | "bag"> & Partial<Rig>, { name, camera, job, day }: Begun): Rig {
  return {
    promises: [],
    ...rig,
    format: "isotact/rig",
    version: 1,
    id: "new-rig",
    name: name.trim() || `${job.trim() || "New rig"}, ${camera} camera`,
    camera,
    production: job.trim() || null,
    days: day ? [day] : [],
  } as Rig;
}
