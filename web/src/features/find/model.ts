import type { Schemas, Step } from "../../api/client";
import type { Mark } from "../../rig";

export type Finding = Schemas["Finding"];
export type NextLook = Schemas["NextLook"];
export type Cause = Schemas["Cause"];
export type Sight = Schemas["Sight"];
export type Answered = Schemas["Answered"];
export type Standing = Omit<Schemas["ToFind"], "document" | "seen">;

/** What comes of a cure that is tried, as the server calls it. */
export const CURED = "it works now";
export const STILL = "it still fails";
/** What was carried out, whatever became of it. */
const CARRIED_OUT = ["done", "differs", "spoilt"];

/** How a rig stands, for who looks for what is wrong: what was done in which order, and what happened between. */
export function standingOf(steps: readonly Step[], marks: Record<string, Mark>, happened: readonly Schemas["Befallen"][]): Standing {
  const place = new Map(steps.map((step, number) => [step.id, number]));
  const done = Object.entries(marks)
    .filter(([step, mark]) => place.has(step) && CARRIED_OUT.includes(mark.what))
    // A sheet that is ticked in one go is done in its order.
    .sort(([a, one], [b, other]) => one.at.localeCompare(other.at) || (place.get(a) ?? 0) - (place.get(b) ?? 0));
  const odd = done.filter(([, mark]) => mark.what === "differs").at(-1)?.[0] || null;
  // Who ticked nothing before the step at which he stopped did what comes before it all the same.
  const isTicked = done.some(([step]) => step !== odd);
  const before = steps.slice(0, 1 + (place.get(odd ?? "") ?? -1)).map(({ id }) => id);
  return {
    done: isTicked ? done.map(([step]) => step) : odd ? before : null,
    differs: odd,
    happened: happened.map(({ what, device, at }) => ({ what, device, after: done.filter(([, mark]) => mark.at <= at).length })),
    changed: [...new Set(happened.map(({ device }) => device))],
  };
}

/** A probability as people say it. */
export function percent(share: number): string {
  if (share > 0.995) return "sure";
  if (share < 0.01) return "under 1 %";
  return `${Math.round(100 * share)} %`;
}

/** How much of what is likely a look leaves behind, as people say it. */
export function goes(look: NextLook): string {
  const part = look.goes;
  if (part > 0.6) return "Most of the likely causes go.";
  if (part > 0.4) return "Half of the likely causes go.";
  if (part > 0.2) return "Some of the likely causes go.";
  return "It tells a little.";
}

/** How long something takes, as people say it. */
export function lasts(seconds: number): string {
  return seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;
}

/** Several causes in one line. */
export const saysOf = (cause: Cause): string => cause.says.join("; and ");

const COLOURS: readonly [RegExp, string][] = [
  [/\b(red)\b/, "bg-roll border-roll"],
  [/\b(green)\b/, "bg-good border-good"],
  [/\b(blue)\b/, "bg-radio border-radio"],
  [/\b(amber|orange|yellow)\b/, "bg-warn border-warn"],
  [/\b(white)\b/, "bg-ink border-ink"],
  [/^dark$/, "bg-transparent border-edge"],
];

/** How a lamp is drawn that looks so; nothing where the words name no lamp. */
export function lampOf(look: string, words: string): { colour: string; blinks: boolean } | undefined {
  if (!look.startsWith("lamp:") && !look.startsWith("link-lamps:")) return undefined;
  const colour = COLOURS.find(([word]) => word.test(words))?.[1];
  return colour === undefined ? undefined : { colour, blinks: /blink|flash|puls/.test(words) };
}

/** Looks by the device at which they are, promises first. */
export function byDevice(sights: readonly Sight[]): [string, Sight[]][] {
  const groups = new Map<string, Sight[]>();
  for (const sight of sights.filter((one) => !one.is_promise))
    groups.set(sight.device ?? "", [...(groups.get(sight.device ?? "") ?? []), sight]);
  return [...groups];
}
