import type { Schemas } from "../../api/client";
import { ofFunction, Pictogram, type PictogramName } from "../../ui";
import { STATES } from "../model";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { useLit } from "../use-lit";
import { useStates } from "../use-states";
import { byPerson } from "./model";
import { PromiseEntry } from "./entry";

/** Every promise by person, a line each with its state, in sight on every screen. Tap one: all about it opens beside. */
export function PromiseColumn({ alone }: { alone: boolean }) {
  const { rig } = useDraft();
  return (
    <nav
      aria-label="Promises"
      className={`min-h-0 flex-col border-edge bg-panel md:flex md:w-80 md:shrink-0 md:border-r ${alone ? "flex flex-1" : "hidden"}`}
    >
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="group" aria-label="By person">
        {rig.promises.length === 0 && <NothingYet devices={rig.devices.length} />}
        {byPerson(rig).map(([person, promises]) => (
          <section key={person}>
            <h2 className="h-[20px] truncate bg-raised px-3 text-[15px] leading-[20px] font-semibold">{person}</h2>
            <ul>
              {promises.map((promise) => (
                <Line key={promise.id} id={promise.id} who={promise.who} />
              ))}
            </ul>
          </section>
        ))}
      </div>
      <PromiseEntry />
    </nav>
  );
}

function Line({ id, who }: { id: string; who: string }) {
  const { answer } = useAnswer();
  const { light } = useLit();
  const { opened, show } = usePanel();
  const states = useStates();
  const state = STATES[states[id] ?? "asked"];
  const line = answer?.drawing.lines[id];
  const isOpen = opened?.kind === "promise" && opened.id === id;
  return (
    <li>
      <button
        type="button"
        aria-pressed={isOpen}
        onClick={() => {
          light(id);
          show({ kind: "promise", id });
        }}
        className={`flex h-[44px] w-full items-center gap-2 border-b border-edge/50 pr-2 text-left ${isOpen ? "bg-raised shadow-[inset_6px_0_0_var(--lead)]" : "hover:bg-raised"}`}
      >
        <span aria-hidden className={`w-9 shrink-0 pl-2 text-center text-xl font-bold ${state.colour}`}>
          {state.mark}
        </span>
        <Pictogram name={pictogramOf(line)} className="text-soft" />
        <span className="min-w-0 text-[16px] leading-[19px]">
          <span className="sr-only">
            {state.word}. {who}:{" "}
          </span>
          <b className="block truncate">{line?.what ?? id}</b>
          <span className="sr-only">, </span>
          <span className="block truncate text-soft">{line?.where}</span>
        </span>
      </button>
    </li>
  );
}

function pictogramOf(line: Schemas["PromiseLine"] | undefined): PictogramName {
  if (line?.function) return ofFunction(line.function);
  return line && /^[\d.]+ h$/.test(line.what) ? "hours" : "picture";
}

function NothingYet({ devices }: { devices: number }) {
  return (
    <div className="px-4 py-6">
      <p className="text-lg font-semibold">Nothing is promised yet</p>
      <p className="mt-1 text-soft">
        {devices === 0
          ? "First take devices from the shelf. Then write below who needs what."
          : "Write below who needs what, such as “Director sees picture on phone”, or tap a cell under Functions."}
      </p>
    </div>
  );
}
