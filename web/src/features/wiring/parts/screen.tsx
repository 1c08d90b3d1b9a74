import { useState } from "react";

import { Button, Empty, OnItsWay, Panel, useWide } from "../../../ui";
import { useAnswer, useDraft, useLit } from "../../../rig";
import { changedLinks, isLarge, litWith, PATTERNS } from "../model";
import { Figures } from "./figures";
import { JoinDrawer } from "./join";
import { RigMap } from "./map";
import { Pins } from "./pins";
import { Schedule } from "./schedule";

/** Which cable in which port: the map in lanes, and the schedule beside it. */
export function WiringScreen() {
  const { answer } = useAnswer();
  const { rig } = useDraft();
  const isWide = useWide();
  const { lit, light } = useLit();
  const [tapped, setTapped] = useState<string>();
  const [hidden, setHidden] = useState<string[]>([]);
  const [listed, setListed] = useState<boolean>();
  if (!answer) return <OnItsWay says="Planning" />;
  if (answer.plan.joins.length === 0)
    return (
      <Panel className="h-full">
        <Empty title="Nothing to join">No promise of this rig needs a cable. Promise something, or look why nothing holds.</Empty>
        <Pins />
      </Panel>
    );
  const route = answer.plan.routes.find((one) => one.promise === lit);
  const litLinks = litWith(answer.plan, new Set(route?.hops.flatMap((hop) => (hop.link ? [hop.link] : [])) ?? (tapped ? [tapped] : [])));
  const tap = (link: string) => {
    light(undefined);
    setTapped(link);
  };
  const toggle = (family: string) => setHidden((old) => (old.includes(family) ? old.filter((one) => one !== family) : [...old, family]));
  const opened = answer.plan.joins.find((join) => join.link.id === tapped);
  const isMapFirst = isLarge(answer.drawing) || !isWide;
  const schedule = listed ?? !isMapFirst;
  const isChanged = changedLinks(answer).size > 0;
  const idle = answer.drawing.devices.filter((device) => !device.used);
  return (
    <div className={`grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full ${schedule ? "@3xl:grid-cols-[minmax(0,1fr)_24rem]" : ""}`}>
      <Panel
        title="Rig map"
        className="min-h-[28rem] max-md:h-[calc(100dvh-10rem)]"
        actions={<Legend families={[...new Set(answer.plan.joins.map((join) => join.family))]} hidden={hidden} onToggle={toggle} />}
      >
        <div className="flex h-full flex-col gap-2">
          <div className="min-h-0 flex-1">
            <RigMap
              answer={answer}
              lit={litLinks}
              hidden={hidden}
              name={`${rig.name}, rig map`}
              onTap={tap}
              foot={
                <>
                  {lit && <Button onClick={() => light(undefined)}>Show every way</Button>}
                  <Figures answer={answer} />
                  {isChanged && <Changed />}
                  {(isMapFirst || !schedule) && (
                    <Button className="ml-auto" aria-pressed={schedule} onClick={() => setListed(!schedule)}>
                      {schedule ? "Map only" : "Show the schedule"}
                    </Button>
                  )}
                </>
              }
            />
          </div>
          {!schedule && <Pins />}
          {idle.length > 0 && <Idle names={idle.map((device) => device.name)} />}
        </div>
      </Panel>
      {schedule && (
        <Panel title="Cable schedule" scroll>
          <Pins />
          <Schedule rows={answer.drawing.schedule.filter((row) => !hidden.includes(row.family))} lit={litLinks} onTap={tap} />
        </Panel>
      )}
      {opened && <JoinDrawer join={opened} onClose={() => setTapped(undefined)} />}
    </div>
  );
}

/** What each kind of line is; tapped, its lines go and come back. */
function Legend({ families, hidden, onToggle }: { families: string[]; hidden: string[]; onToggle: (family: string) => void }) {
  return (
    <ul className="flex flex-wrap gap-2 text-sm max-md:flex-nowrap max-md:overflow-x-auto">
      {families.map((family) => (
        <li key={family}>
          <button
            type="button"
            aria-pressed={!hidden.includes(family)}
            onClick={() => onToggle(family)}
            className={`flex min-h-11 items-center gap-2 rounded-md border px-2 whitespace-nowrap ${hidden.includes(family) ? "border-edge text-soft line-through" : "border-ink"}`}
          >
            <svg width="36" height="10" aria-hidden opacity={hidden.includes(family) ? 0.3 : 1}>
              <line
                x1="2"
                x2="34"
                y1="5"
                y2="5"
                stroke={`var(--${family === "motor-bus" ? "power" : family})`}
                strokeWidth={PATTERNS[family]?.width}
                strokeDasharray={PATTERNS[family]?.dash}
                strokeLinecap={family === "radio" ? "round" : "butt"}
              />
            </svg>
            {PATTERNS[family]?.word}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What the edge of dots means: only what a rig that stands built lacks yet has it. */
function Changed() {
  return (
    <span className="flex items-center gap-2">
      <svg width="44" height="16" aria-hidden>
        <line x1="2" x2="42" y1="8" y2="8" className="stroke-warn" strokeWidth={12} strokeDasharray="2 9" />
        <line x1="2" x2="42" y1="8" y2="8" className="stroke-ink" strokeWidth={4} />
      </svg>
      new since the build
    </span>
  );
}

const FEW = 3;

/** What is not used: a few by name, many behind a tap, so that the map keeps its room. */
function Idle({ names }: { names: string[] }) {
  const all = names.join(", ");
  if (names.length <= FEW) return <p className="text-soft">Stays in its case: {all}.</p>;
  return (
    <details className="text-soft">
      <summary className="flex min-h-11 cursor-pointer items-center">
        {names.length === 1 ? "1 device stays in its case" : `${names.length} devices stay in their cases`} — which
      </summary>
      {all}.
    </details>
  );
}
