import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef } from "react";
import { useSearchParams } from "react-router";

import { provingQuery, STATES, useAnswer, useDraft, useMe, useDay, useStates, type ProofByHand, type PromiseState } from "../../../rig";
import { Empty, OnItsWay, Panel, useKeepInView, useShortcuts } from "../../../ui";
import { nextTest, recordOf, type Test } from "../model";
import { Happened } from "./happened";
import { TestCard } from "./test-card";

const NONE: readonly Test[] = [];

/** Every promise with its test, one of them large: proven on the real rig, by who saw it. */
export function ProveScreen() {
  const { rig } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const states = useStates();
  const { byHand, say, happen } = useDay();
  const { mayTick } = useMe();
  const [search, setSearch] = useSearchParams();
  const { data } = useQuery({ ...provingQuery(rig), enabled: !isPlanning && Boolean(answer) });
  const tests = data?.tests ?? NONE;
  const asked = tests.findIndex((test) => test.promise === search.get("promise"));
  const at = asked === -1 ? nextTest(tests, states) : asked;
  const test = tests[at];
  const go = (to: number) => {
    const next = tests[Math.max(0, Math.min(tests.length - 1, to))];
    if (next) setSearch({ promise: next.promise }, { replace: true });
  };
  useShortcuts([
    { keys: "j", does: "Next test", run: () => go(at + 1) },
    { keys: "k", does: "Test before", run: () => go(at - 1) },
  ]);
  const steps = useMemo(() => new Map(answer?.sheet.steps.map((step) => [step.id, step])), [answer]);
  if (!answer || !data) return <OnItsWay says="Planning" />;
  if (!test)
    return (
      <Panel className="h-full">
        <Empty title="Nothing to prove">No promise of this rig can be kept as it stands.</Empty>
      </Panel>
    );
  const proven = tests.filter(({ promise }) => states[promise] === "proven").length;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <TestCard
        key={`${test.promise} ${byHand[test.promise]?.at ?? ""}`}
        test={test}
        state={states[test.promise] ?? "asked"}
        proof={byHand[test.promise]}
        cautions={steps.get(test.step)?.cautions ?? []}
        mayTick={mayTick}
        onSay={(what, more) => {
          say([test.step], what, more);
          if (what === "done") setSearch({}, { replace: true });
        }}
      />
      <Panel title={`${proven} of ${tests.length} proven`} scroll>
        <TestList tests={tests} at={at} states={states} byHand={byHand} onGo={go} />
        <Happened may={data.may_happen} disabled={!mayTick} onHappened={happen} />
      </Panel>
    </div>
  );
}

function TestList({
  tests,
  at,
  states,
  byHand,
  onGo,
}: {
  tests: readonly Test[];
  at: number;
  states: Record<string, PromiseState>;
  byHand: Record<string, ProofByHand>;
  onGo: (to: number) => void;
}) {
  const here = useRef<HTMLButtonElement>(null);
  useKeepInView(here, at);
  return (
    <ol className="mb-3">
      {tests.map((test, number) => {
        const look = STATES[states[test.promise] ?? "asked"];
        return (
          <li key={test.promise}>
            <button
              ref={number === at ? here : undefined}
              type="button"
              aria-current={number === at ? "step" : undefined}
              onClick={() => onGo(number)}
              className={`flex min-h-11 w-full items-center gap-3 rounded px-2 py-1 text-left leading-tight ${number === at ? "bg-raised shadow-[inset_5px_0_0_var(--lead)]" : ""}`}
            >
              <span className={`w-5 text-center ${look.colour}`} role="img" aria-label={look.word}>
                {look.mark}
              </span>
              <span className="min-w-0 flex-1">
                <span className="block first-letter:uppercase">{test.words}</span>
                <span className="text-sm text-soft">{recordOf(byHand[test.promise])}</span>
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}
