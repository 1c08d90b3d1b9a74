import type { DeviceView } from "../../../api/client";
import { Pictogram, type PictogramName } from "../../../ui";

import { LAMPS } from "../by-hand/lamp";

/** A device on the bench as a person would see it: its lamps, its screens, what it asks. */
export function BenchDevice({ look, fresh, kind }: { look: DeviceView; fresh: boolean; kind: PictogramName }) {
  const rolling = look.lamps.some((lamp) => lamp.state === "recording");
  return (
    <li
      className={`flex flex-col gap-2 rounded-md border-2 bg-raised p-3 ${rolling ? "border-roll" : fresh ? "border-lead" : "border-transparent"}`}
    >
      <p className="flex items-baseline justify-between gap-2">
        <b className="flex min-w-0 items-center gap-2 text-lg">
          <Pictogram name={kind} className="text-soft" /> {look.name}
        </b>
        <span className="text-soft">{rolling ? "rolling" : look.state}</span>
      </p>
      {look.lamps.map((lamp) => (
        <p key={lamp.name} className="flex items-center gap-3 leading-tight">
          <span aria-hidden className={`size-5 shrink-0 rounded-full border-2 ${LAMPS[lamp.state] ?? LAMPS.asleep}`} />
          <span>
            {lamp.name}: {lamp.looks}
          </span>
        </p>
      ))}
      {look.screens.map((screen) => (
        <Screen key={screen.name} name={screen.name} shows={screen.shows} delayMs={screen.delay_ms} rolling={rolling} />
      ))}
      {look.asks && <p className="rounded border-l-8 border-warn bg-panel p-2 font-semibold">{look.asks}</p>}
      {look.plugged.length > 0 && <p className="text-sm text-soft">In use: {look.plugged.join(", ")}</p>}
    </li>
  );
}

/** A small picture of a screen: dark, lit, or with the ferry's horizon on it. */
function Screen({ name, shows, delayMs, rolling }: { name: string; shows: string; delayMs?: number | null; rolling: boolean }) {
  const live = shows === "picture";
  return (
    <figure className="flex items-center gap-3">
      <svg viewBox="0 0 96 54" className="h-14 w-24 shrink-0 rounded border border-edge" aria-hidden>
        <rect width="96" height="54" className="fill-ground" />
        {live && (
          <>
            <rect width="96" height="30" className="fill-radio" opacity="0.35" />
            <path d="M0 34 h96 v20 h-96z" className="fill-video" opacity="0.5" />
            <path d="M22 34 l6 -10 h36 l6 10z M36 24 v-7 h16 v7z" className="fill-ink" opacity="0.85" />
          </>
        )}
        {rolling && <rect x="1.5" y="1.5" width="93" height="51" fill="none" className="stroke-roll" strokeWidth="3" />}
      </svg>
      <figcaption className="leading-tight">
        {name}
        <span className="block text-sm text-soft">
          {shows}
          {live && delayMs != null && `, ${delayMs} ms late`}
        </span>
      </figcaption>
    </figure>
  );
}
