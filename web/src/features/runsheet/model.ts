import type { Step } from "../../api/client";
import { ofAct, type PictogramName } from "../../ui";

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

/** Who did a step, and when: "Ada, 14:03". */
export const didIt = (
  mark: { person: string; at: string },
  clock = (at: Date) => at.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false }),
) => [mark.person, clock(new Date(mark.at))].filter(Boolean).join(", ");

/** Cards in runs of the same stage. */
export function byStage(cards: readonly Card[]): { stage: Step["stage"]; cards: Card[] }[] {
  const runs: { stage: Step["stage"]; cards: Card[] }[] = [];
  for (const card of cards) {
    const last = runs.at(-1);
    if (last?.stage === card.stage) last.cards.push(card);
    else runs.push({ stage: card.stage, cards: [card] });
  }
  return runs;
}

/** What is done in one go: one step, or several of a kind at one place, each a line of its own. */
export type Card = { title: string; stage: Step["stage"]; steps: Step[] };

/** The steps of a sheet as cards: those of one kind that follow each other are one. */
export function cardsOf(steps: readonly Step[]): Card[] {
  const cards: Card[] = [];
  for (const step of steps) {
    const last = cards.at(-1);
    const first = last?.steps[0];
    if (last && first && step.card && first.card === step.card && last.stage === step.stage) {
      last.title = step.card;
      last.steps.push(step);
    } else cards.push({ title: step.title, stage: step.stage, steps: [step] });
  }
  return cards;
}

/** What a card asks for, as a pictogram: by what its first step does, and whether teeth mesh there. */
export function pictogramOf({ title, steps }: Card): PictogramName {
  const [first] = steps;
  return first ? ofAct(first.act.kind, first.act.kind === "plug" && /^Mesh /.test(title)) : "other";
}

export const isDone = (card: Card, ticks: Record<string, string>) => card.steps.every((step) => step.id in ticks);

type Said = { what: string; person: string; at: string };
export type Standing = "open" | "done" | "skipped" | "differs" | "spoilt";

/** How a card stands: what does not look as it should comes first, then what is still to be done. */
export function standingOf(card: Card, marks: Record<string, { what: string }>): Standing {
  const said = card.steps.map((step) => marks[step.id]?.what ?? "open");
  if (said.includes("differs")) return "differs";
  if (said.includes("spoilt")) return "spoilt";
  if (said.includes("open")) return "open";
  return said.includes("skipped") ? "skipped" : "done";
}

const HEARD: Record<string, string> = { done: "done", skipped: "skipped", differs: "does not look like that", spoilt: "to be done again" };

/** What others have said since, in a sentence to be read out; nothing of what I said myself. */
export function heard(before: Record<string, Said>, now: Record<string, Said>, steps: readonly Step[], me: string): string {
  return steps
    .filter(({ id }) => now[id] && now[id].person !== me && (before[id]?.at !== now[id].at || before[id]?.what !== now[id].what))
    .map(({ id, title }) => `${now[id]!.person || "Somebody"}: ${title}, ${HEARD[now[id]!.what] ?? now[id]!.what}.`)
    .join(" ");
}

/** Of each there is, how many: "6 of 38 done, 1 skipped". */
export function countOf(steps: readonly Step[], marks: Record<string, { what: string }>): string {
  const of = (what: string) => steps.filter((step) => marks[step.id]?.what === what).length;
  return [
    `${of("done")} of ${steps.length} done`,
    of("skipped") && `${of("skipped")} skipped`,
    of("differs") && `${of("differs")} amiss`,
    of("spoilt") && `${of("spoilt")} again`,
  ]
    .filter(Boolean)
    .join(", ");
}

/** The first card with something still to do; the last one when there is nothing. */
export function nextOpen(cards: readonly Card[], marks: Record<string, { what: string }>): number {
  const open = cards.findIndex((card) => ["open", "differs", "spoilt"].includes(standingOf(card, marks)));
  return open === -1 ? Math.max(0, cards.length - 1) : open;
}

/** Seconds as people say them. */
export function spoken(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return `${Math.round(seconds / 60)} min`;
}
