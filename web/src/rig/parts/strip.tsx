import { STATES } from "../model";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { useRun } from "../use-run";

/** Every promise with its state, in sight on every screen. Tap one: its route lights up and its conditions open. */
export function PromiseStrip({ onOpen }: { onOpen: (promise: string) => void }) {
  const { rig } = useDraft();
  const { answer, lit, light } = useAnswer();
  const { states } = useRun();
  return (
    <nav aria-label="Promises" className="flex gap-2 overflow-x-auto border-b border-edge bg-panel px-3 py-2">
      {rig.promises.length === 0 && <p className="py-2 text-soft">Nothing is promised yet.</p>}
      {rig.promises.map((promise) => {
        const state = STATES[states[promise.id] ?? "asked"];
        return (
          <button
            key={promise.id}
            type="button"
            aria-pressed={lit === promise.id}
            onClick={() => {
              light(promise.id);
              onOpen(promise.id);
            }}
            className={`min-h-12 ${rig.promises.length > 4 ? "w-56" : "w-72"} shrink-0 rounded-md border-2 bg-raised px-3 py-1 text-left leading-tight ${lit === promise.id ? "border-lead" : "border-transparent"}`}
          >
            <span className={`font-bold ${state.colour}`}>
              <span aria-hidden>{state.mark}</span> {state.word}
            </span>
            <span className="line-clamp-2 text-sm">
              {promise.who}: {answer?.drawing.promises[promise.id] ?? promise.id}
            </span>
          </button>
        );
      })}
    </nav>
  );
}
