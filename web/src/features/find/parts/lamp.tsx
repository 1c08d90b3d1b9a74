import { lampOf } from "../model";

/** A lamp as it would look, before the words that say so. */
export function Lamp({ look, words }: { look: string; words: string }) {
  const lamp = lampOf(look, words);
  if (!lamp) return null;
  return <span aria-hidden className={`size-5 shrink-0 rounded-full border-2 ${lamp.colour} ${lamp.blinks ? "animate-pulse" : ""}`} />;
}
