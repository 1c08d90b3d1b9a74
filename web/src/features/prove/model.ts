import type { Reading, Schemas } from "../../api/client";
import type { ProofByHand, PromiseState } from "../../rig";

export type Test = Schemas["Test"];
export type Ask = Test["asks"][number];

/** What was answered to each ask so far, by its id. */
export type Answers = Record<string, Omit<Reading, "ask">>;

/** The readings that were given, in the order in which they were asked for. */
export const readingsOf = (asks: readonly Ask[], answers: Answers): Reading[] =>
  asks.flatMap(({ id }) => (answers[id] ? [{ ask: id, ...answers[id] }] : []));

/** What is needed and was not looked at yet. */
export const missingOf = (asks: readonly Ask[], answers: Answers): Ask[] => asks.filter((ask) => ask.is_needed && !answers[ask.id]);

/** Whether anything was looked at and not seen: then it does not work, whatever else does. */
export const isRefuted = (answers: Answers): boolean => Object.values(answers).some((one) => one.seen === false);

const DONE: readonly (PromiseState | undefined)[] = ["proven"];

/** The first test that is still to be made, or made again; the last one where all is proven. */
export function nextTest(tests: readonly Test[], states: Record<string, PromiseState>): number {
  const open = tests.findIndex((test) => !DONE.includes(states[test.promise]));
  return open === -1 ? Math.max(0, tests.length - 1) : open;
}

/** Numbers as somebody types them, one after the other: "2, 3 3" are three takes. Undefined where one is no number. */
export function takes(typed: string): number[] | undefined {
  const parts = typed.split(/[\s,;]+/).filter(Boolean);
  const numbers = parts.map(Number);
  return parts.length > 0 && numbers.every((one) => Number.isFinite(one) && one >= 0) ? numbers : undefined;
}

/** The time that a running clock shows, in ms since it began: minutes, seconds and thousandths, always of one length. */
export function shownTime(ms: number): string {
  const whole = Math.floor(ms);
  const two = (part: number) => String(part).padStart(2, "0");
  return `${two(Math.floor(whole / 60_000) % 60)}:${two(Math.floor(whole / 1000) % 60)}.${String(whole % 1000).padStart(3, "0")}`;
}

/** A time as it was read off the clock, in ms; undefined where it is none. */
export function readTime(text: string): number | undefined {
  const found = /^(?:(\d{1,2}):)?(\d{1,2})[.,](\d{3})$/.exec(text.trim());
  return found ? (Number(found[1] ?? 0) * 60 + Number(found[2])) * 1000 + Number(found[3]) : undefined;
}

const WENT = { proven: "", failed: "did not work", spoilt: "undone" } as const;

/** Who saw it, when, and the numbers that were read: the record of a proof in a line. */
export function recordOf(
  proof: ProofByHand | undefined,
  clock = (at: Date) => at.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false }),
): string {
  if (!proof) return "not looked at yet";
  const numbers = (proof.judged ?? []).filter((one) => one.ask.unit).map((one) => `${one.ask.id} ${one.read}`);
  return [[proof.person, clock(new Date(proof.at))].filter(Boolean).join(", "), WENT[proof.outcome], ...numbers]
    .filter(Boolean)
    .join(" · ");
}
