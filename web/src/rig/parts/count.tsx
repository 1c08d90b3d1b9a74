import { Link } from "react-router";

import { useWide } from "../../ui";
import { STATES, worstOf, type PromiseState } from "../model";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { useLit } from "../use-lit";
import { useStates } from "../use-states";

/** How many promises hold, with the worst state there is: in sight wherever one is. */
export function PromiseCount() {
  const { rig } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const { light } = useLit();
  const { show } = usePanel();
  const wide = useWide();
  const states = useStates();
  const all = Object.values(states);
  const worst = worstOf(all);
  const look = STATES[worst];
  const holding = all.filter((state) => HOLDS.includes(state)).length;
  const again = all.filter((state) => state === "lapsed").length;
  const proven = answer?.plan.status === "proven-optimal";
  return (
    <Link
      to={`/rigs/${rig.id}`}
      onClick={(event) => {
        // Where the column is in sight, whoever taps the count wants to know about the worst of it.
        const first = rig.promises.find((promise) => states[promise.id] === worst);
        if (!wide || !first) return;
        event.preventDefault();
        light(first.id);
        show({ kind: "promise", id: first.id });
      }}
      className="flex min-h-11 items-center gap-2 rounded-md px-2 leading-tight whitespace-nowrap"
    >
      <span aria-hidden className={`text-xl font-bold ${look.colour}`}>
        {look.mark}
      </span>
      <span role="status">
        <b className="block tabular-nums">{rig.promises.length === 0 ? "Nothing promised" : `${holding} of ${rig.promises.length} hold`}</b>
        <span className={`text-sm text-soft ${worst === "impossible" || worst === "failing" ? "block" : "hidden sm:block"}`}>
          {isPlanning
            ? "planning"
            : worst === "impossible" || worst === "failing"
              ? count(all, worst)
              : again > 0
                ? `${again} to prove again`
                : proven
                  ? "best plan, proven"
                  : "best so far"}
        </span>
      </span>
    </Link>
  );
}

const HOLDS: PromiseState[] = ["planned", "lapsed", "benched", "proven"];
const count = (all: string[], state: string) => `${all.filter((one) => one === state).length} ${state}`;
