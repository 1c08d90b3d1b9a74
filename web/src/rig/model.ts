import type { Answer, Plan, Proof, Rig, RigPromise, Run } from "../api/client";

/** How a promise stands. Each has a mark and a word of its own, so that colour is never needed. */
export type PromiseState = "asked" | "planned" | "lapsed" | "benched" | "proven" | "failing" | "maybe" | "impossible";

export const STATES: Record<PromiseState, { mark: string; word: string; colour: string }> = {
  asked: { mark: "…", word: "asked", colour: "text-soft" },
  planned: { mark: "○", word: "planned", colour: "text-ink" },
  lapsed: { mark: "↻", word: "prove again", colour: "text-warn" },
  benched: { mark: "●", word: "proven on the bench", colour: "text-good" },
  proven: { mark: "✔", word: "proven", colour: "text-good" },
  failing: { mark: "▲", word: "failing", colour: "text-warn" },
  maybe: { mark: "?", word: "maybe, by a recipe", colour: "text-warn" },
  impossible: { mark: "✕", word: "impossible", colour: "text-bad" },
};

const WORST_FIRST: PromiseState[] = ["failing", "impossible", "maybe", "asked", "lapsed", "planned", "benched", "proven"];

/** The state that somebody has to see first. */
export function worstOf(states: readonly PromiseState[]): PromiseState {
  return WORST_FIRST.find((state) => states.includes(state)) ?? "asked";
}

/** The proofs of a run that have been reached when `shown` of its frames have been played. */
export function proofsShown(run: Run | undefined, shown: number): Proof[] {
  if (!run) return [];
  const worked = run.frames.slice(0, shown).flatMap((frame) => (frame.proof ? [frame.proof] : []));
  return shown < run.frames.length ? worked : [...(run.standing ?? []), ...worked];
}

type ByHand = { outcome: "proven" | "failed" | "spoilt"; lapsed?: readonly string[] };

/** How `promise` stands, from the answer, the proofs seen on the bench, what was said of its proof on the day, and whether that still holds. */
export function stateOf(
  promise: RigPromise,
  answer: Answer | undefined,
  proofs: Proof[],
  marks: Record<string, { what: string }>,
  byHand?: ByHand,
): PromiseState {
  if (!answer) return "asked";
  if (answer.not_kept.includes(promise.id))
    return (answer.plan.maybe ?? []).some((one) => one.promise === promise.id) ? "maybe" : "impossible";
  if (!answer.plan.routes.some((route) => route.promise === promise.id)) return "asked";
  const proof = proofs.findLast((one) => one.promise === promise.id);
  if (proof && !proof.ok) return "failing";
  const step = answer.sheet.steps.find(({ act }) => act.kind === "prove" && act.promise === promise.id);
  // What was seen on the real rig counts for more than what the bench says.
  switch (step && marks[step.id]?.what) {
    case "differs":
      return "failing";
    case "spoilt":
      return "lapsed";
    case "done":
      // A reading over its limit is no proof, whatever was tapped.
      if (byHand?.outcome === "failed") return "failing";
      return byHand?.lapsed?.length ? "lapsed" : "proven";
    default:
      return proof ? "benched" : "planned";
  }
}

/** `rig` without a promise, and without what is said of it. */
export const withoutPromise = (rig: Rig, id: string): Rig => ({
  ...rig,
  promises: rig.promises.filter((one) => one.id !== id),
  pins: (rig.pins ?? []).filter((pin) => pin.kind !== "way" || pin.promise !== id),
  recipes: (rig.recipes ?? []).filter((taken) => taken.promise !== id),
});

/** The first id of the form `stem`, `stem-2`, `stem-3` ... that is not taken. */
export function freeId(stem: string, taken: string[]): string {
  if (!taken.includes(stem)) return stem;
  for (let number = 2; ; number += 1) {
    if (!taken.includes(`${stem}-${number}`)) return `${stem}-${number}`;
  }
}

/** What the crew calls a device; one without a name of its own is called as its profile is. */
export function deviceName(rig: Rig, id: string, answer?: Answer): string {
  const own = rig.devices.find((device) => device.id === id)?.name;
  return own ?? answer?.drawing.devices.find((device) => device.id === id)?.name ?? id;
}

/** How many of each cable and adapter a plan lays: a piece with several ends counts once. */
export function cablesLaid(plan: Pick<Plan, "joins">): Map<string, number> {
  const counts = new Map<string, number>();
  const pieces = new Map(plan.joins.map(({ link }) => [link.lead ?? link.id, link]));
  for (const { cable, adapter_a, adapter_b } of pieces.values())
    for (const key of [cable, adapter_a, adapter_b]) if (key) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}

/** What the join of a flag carries as a rule; nothing where nobody runs from it. */
export function carried(answer: Answer | undefined, tag: string): string | undefined {
  const links = new Set((answer?.plan.joins ?? []).filter((join) => join.tag === tag).map((join) => join.link.id));
  const watts = (answer?.plan.feeds ?? []).reduce((sum, feed) => sum + (feed.join && links.has(feed.join) ? feed.load_w : 0), 0);
  return watts > 0 ? `${watts < 10 ? watts.toFixed(1) : watts.toFixed(0)} W` : undefined;
}
