import { NavLink } from "react-router";

import type { Screen } from "../screens";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { useRun } from "../use-run";

/** The stages of the work, each with what it has to tell. */
export function Rail({ screens }: { screens: Screen[] }) {
  const { rig } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const { ticks, playback, states } = useRun();
  const standing = { rig, answer, ticks, run: playback?.run, states };
  return (
    <nav
      aria-label="Stages"
      className="flex shrink-0 gap-1 border-edge bg-panel p-2 max-md:order-last max-md:border-t md:w-40 md:flex-col md:border-r"
    >
      {screens.map((screen) => (
        <NavLink
          key={screen.path}
          to={`/rigs/${rig.id}/${screen.path}`}
          className={({ isActive }) =>
            `flex min-h-14 flex-1 flex-col justify-center rounded-md px-3 leading-tight md:flex-none ${screen.small ? "" : "max-md:hidden"} ${isActive ? "bg-raised shadow-[inset_6px_0_0_var(--lead)]" : "hover:bg-raised"}`
          }
        >
          <span className="font-semibold">{screen.name}</span>
          <span className="text-sm text-soft max-sm:hidden">{screen.tells(standing)}</span>
        </NavLink>
      ))}
      <p role="status" className="mt-auto px-3 py-2 text-sm text-soft max-md:hidden">
        {isPlanning ? "Planning." : answer?.plan.status === "proven-optimal" ? "Best plan, proven." : answer ? "Best so far." : ""}
      </p>
    </nav>
  );
}
