import type { LogLine } from "../../api/client";

/** What each kind of line says, in the crew's words. */
export const SAYS: Record<string, string> = {
  done: "done",
  "taken-back": "taken back",
  skipped: "skipped",
  differs: "does not look like that",
  spoilt: "to be done again",
  "battery-changed": "battery changed",
  restarted: "restarted",
  given: "given",
  note: "note",
  tried: "recipe tried",
  looked: "looked",
  unlooked: "answer taken back",
  found: "found",
  "given-up": "not found",
  created: "begun",
  saved: "changed",
  undone: "change undone",
  redone: "change made again",
  "brought back": "earlier revision brought back",
  "set aside": "other version set aside",
  kept: "kept",
  removed: "put in the bin",
  restored: "taken out of the bin",
  "thrown away": "thrown away",
  cleared: "new day",
  imported: "imported",
};

export const saysOf = (what: string) => SAYS[what] ?? what;

/** Lines in runs of the same day by this machine's clock, in their order. */
export function byDay(
  lines: readonly LogLine[],
  dayOf = (at: string) => new Date(at).toLocaleDateString("en-CA"),
): { day: string; lines: LogLine[] }[] {
  const runs: { day: string; lines: LogLine[] }[] = [];
  for (const line of lines) {
    const day = dayOf(line.at);
    const last = runs.at(-1);
    if (last?.day === day) last.lines.push(line);
    else runs.push({ day, lines: [line] });
  }
  return runs;
}

/** What a search is about is said in its text: its subject is a key. */
const OF_A_SEARCH = new Set(["looked", "found", "given-up"]);

/** What a line is about, as people call it; a promise's proof and a plug are steps, and have words of their own. */
export const aboutOf = (line: LogLine): string =>
  [line.words || (OF_A_SEARCH.has(line.what) ? "" : line.subject), line.to ? `to ${line.to}` : ""].filter(Boolean).join(", ");

/** Readings in words: what can be said without working anything out. */
export function readOf(line: LogLine): string {
  return (line.readings ?? [])
    .map(({ ask, seen, value, filmed, clocks }) => {
      if (seen != null) return `${ask} ${seen ? "✔" : "✕"}`;
      if (value != null) return `${ask} ${value}`;
      if (filmed) return `${ask} ${filmed.frames.join(", ")} frames at ${filmed.rate_fps}`;
      return `${ask} ${(clocks?.pairs ?? []).map((pair) => `${Math.round(pair.real_ms - pair.shown_ms)} ms`).join(", ")}`;
    })
    .join(", ");
}
