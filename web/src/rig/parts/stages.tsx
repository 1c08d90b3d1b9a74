import { NavLink } from "react-router";

import { PARTS, type Screen } from "../screens";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { useBench } from "../use-bench";
import { useDay } from "../use-day";
import { useStates } from "../use-states";

const look = ({ isActive }: { isActive: boolean }) =>
  `flex min-h-14 md:max-xl:min-h-11 xl:min-h-12 flex-col justify-center max-md:min-w-11 max-md:flex-auto md:min-w-0 xl:flex-auto rounded-md px-1 leading-tight max-md:items-center max-md:text-center max-md:px-0 max-md:text-[13px] max-md:tracking-tight md:px-1.5 ${isActive ? "bg-raised shadow-[inset_0_-5px_0_var(--lead)]" : "hover:bg-raised"}`;

/** The stages of the work in their order, each with what it has to tell. On a phone the promises are the first. */
export function Stages({ screens }: { screens: Screen[] }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const { ticks } = useDay();
  const { playback } = useBench();
  const states = useStates();
  const standing = { rig, answer, ticks, run: playback?.run, states };
  const line = (screen: Screen) => (
    <NavLink
      key={screen.path}
      to={`/rigs/${rig.id}/${screen.path}`}
      className={(state) => `${look(state)} ${screen.small ? "" : "max-md:hidden"}`}
    >
      <span className="font-semibold md:truncate md:text-base md:tracking-tight">{screen.name}</span>
      <span className="truncate text-[13px] tracking-tight text-soft max-xl:hidden">{screen.tells(standing)}</span>
    </NavLink>
  );
  return (
    <nav aria-label="Stages" className="flex shrink-0 border-edge bg-panel max-md:border-t max-md:p-1 md:border-b md:max-xl:flex-wrap">
      <NavLink to={`/rigs/${rig.id}`} end className={(state) => `${look(state)} md:hidden`}>
        <span className="font-semibold">Promises</span>
      </NavLink>
      {PARTS.map((part) => (
        <div
          key={part}
          role="group"
          aria-label={part}
          className="max-md:contents md:flex md:min-w-0 md:flex-auto md:border-edge xl:flex-col xl:border-l xl:first-of-type:border-l-0 md:max-xl:items-center"
        >
          <span aria-hidden className="px-2.5 pt-0.5 text-[13px] font-semibold text-soft max-md:hidden md:max-xl:w-14 md:max-xl:pt-0">
            {part}
          </span>
          <div className="max-md:contents md:flex md:gap-0.5 md:p-1 xl:pt-0">
            {screens.filter((screen) => screen.part === part).map(line)}
          </div>
        </div>
      ))}
    </nav>
  );
}
