import type { Schemas, Step } from "../../api/client";
import type { Card } from "./model";

export type Crewed = Schemas["Crewed"];
export type Whose = "all" | "mine" | "nobodys" | "device" | "stage";
type Mark = { what: string; at: string; person: string };

const STAND_INS = ["Second", "Third"];

/** Who is there: me, whoever was given something or did something today, then stand-ins; so many of them. */
export function crewOf(me: string, marks: Record<string, Mark>, given: Record<string, string>, count: number): string[] {
  const others = [...Object.values(given), ...Object.values(marks).map(({ person }) => person)].filter(Boolean);
  const known = [...new Set([me || "You", ...others])];
  return [...known, ...STAND_INS.filter((name) => !known.includes(name))].slice(0, count);
}

/** Whose a step is: given by itself, else by its device, else by its stage. */
export const ownerOf = (step: Step, given: Record<string, string>): string | undefined =>
  given[step.id] ?? (step.device ? given[`device:${step.device}`] : undefined) ?? given[`stage:${step.stage}`];

/** The cards of which something is to be shown: mine, nobody's, those at the device or of the stage of the one at hand. */
export function shownCards(cards: readonly Card[], whose: Whose, me: string, given: Record<string, string>, at: Card | undefined): Card[] {
  const here = at?.steps[0];
  const wanted: Record<Whose, (step: Step) => boolean> = {
    all: () => true,
    mine: (step) => ownerOf(step, given) === me,
    nobodys: (step) => ownerOf(step, given) === undefined,
    device: (step) => step.device === here?.device,
    stage: (step) => step.stage === here?.stage,
  };
  return cards.filter((card) => card.steps.some(wanted[whose]));
}

/** Since how many seconds each step is done or left out. */
export const doneAgo = (marks: Record<string, Mark>, now: number): Record<string, number> =>
  Object.fromEntries(
    Object.entries(marks)
      .filter(([, { what }]) => what === "done" || what === "skipped")
      .map(([step, { at }]) => [step, Math.max(0, (now - new Date(at).getTime()) / 1000)]),
  );

/** What each does now, or next and in how many seconds. */
export function turnsNow(
  crewed: Crewed | undefined,
  people: readonly string[],
): { person: string; step: string | undefined; in_s: number }[] {
  return people.map((person) => {
    const turn = crewed?.turns.find(({ by }) => by.includes(person));
    return { person, step: turn?.step, in_s: turn?.from_s ?? 0 };
  });
}

/** What goes on by itself at the moment: the step that set it going, and the seconds until it is over. */
export function underWay(steps: readonly Step[], marks: Record<string, Mark>, now: number): { step: Step; left_s: number }[] {
  return steps.flatMap((step) => {
    const mark = marks[step.id];
    if (mark?.what !== "done" || !step.waits_s) return [];
    const left_s = Math.ceil(step.waits_s - (now - new Date(mark.at).getTime()) / 1000);
    return left_s > 0 && left_s <= step.waits_s ? [{ step, left_s }] : [];
  });
}
