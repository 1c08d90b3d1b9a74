import type { LogLine, Rig, Schemas } from "../../api/client";
import type { Recipe } from "./queries";

const percent = (share: number) => `${Math.round(share * 100)} %`;

/** How often it worked, and how sure that is; never as a sure thing. */
export function rateWords(rate: Schemas["Rate"]): string {
  if (rate.tries === 0) return "never tried yet";
  return `worked ${rate.worked} of ${rate.tries}: by that, ${percent(rate.low)} to ${percent(rate.high)}`;
}

/** A recipe to begin with, for the devices of a rig. */
export function begun(rig: Rig | undefined): Recipe {
  return {
    format: "isotact/recipe",
    version: 1,
    id: "recipe",
    name: "",
    devices: (rig?.devices ?? []).slice(0, 12).map(({ profile, firmware }) => ({ profile, firmware: firmware ?? null })),
    gives: [],
    steps: [{ says: "" }],
    conditions: null,
  };
}

/** What keeps it from being saved; nothing when it is whole. */
export function lacks(recipe: Recipe): string | undefined {
  if (!recipe.name.trim()) return "Give it a name.";
  if (recipe.devices.length === 0) return "Say with which devices.";
  if (recipe.gives.length === 0) return "Say what it gives.";
  return recipe.steps.every(({ says }) => !says.trim()) ? "Write at least one step." : undefined;
}

/** As it is saved: without steps in which nothing stands. */
export const trimmed = (recipe: Recipe): Recipe => ({
  ...recipe,
  name: recipe.name.trim(),
  steps: recipe.steps.filter(({ says }) => says.trim()).map(({ says, expect }) => ({ says: says.trim(), expect: expect?.trim() || null })),
  conditions: recipe.conditions?.trim() || null,
});

/** Steps made of what stands in the log. */
export const stepsFrom = (lines: readonly LogLine[]): Recipe["steps"] =>
  lines
    .map(({ words, text, what }) => ({
      says: [
        words,
        what === "note" ? text : "",
        what === "restarted" ? "restart it" : "",
        what === "battery-changed" ? "change its battery" : "",
      ]
        .filter(Boolean)
        .join(": ")
        .slice(0, 400),
    }))
    .filter(({ says }) => says)
    .slice(0, 60);

/** What it gives, once its devices are others: between those that are left. */
export function givesOf(gives: Recipe["gives"], devices: Recipe["devices"]): Recipe["gives"] {
  const left = (profile: string | null | undefined) => (devices.some((one) => one.profile === profile) ? profile : null);
  return gives.map((one) => ({ ...one, at: left(one.at), to: left(one.to) }));
}

/** What comes of it, and between which of its devices, as far as it says. */
export function givesWords(
  one: Recipe["gives"][number],
  functionOf: (id: string) => string,
  deviceOf: (profile: string) => string,
): string {
  const [at, to] = one.kind === "picture" ? [" on ", " of "] : [" from ", " on "];
  const what = one.kind === "picture" ? "a picture" : functionOf(one.function ?? "");
  return `${what}${one.to ? `${to}${deviceOf(one.to)}` : ""}${one.at ? `${at}${deviceOf(one.at)}` : ""}`;
}
