import { useState } from "react";

import { Empty, Panel } from "../../../ui";
import { useWorkspace } from "../../rigs";
import { PATTERNS } from "../model";
import { Figures } from "./figures";
import { RigMap } from "./map";
import { Schedule } from "./schedule";

/** Which cable in which port: the map in lanes, and the schedule beside it. */
export function WiringScreen() {
  const { answer, lit, light } = useWorkspace();
  const [tapped, setTapped] = useState<string>();
  if (!answer) return <p className="p-4 text-soft">Planning.</p>;
  if (answer.plan.joins.length === 0)
    return (
      <Panel className="h-full">
        <Empty title="Nothing to join">No promise of this rig needs a cable. Promise something, or look why nothing holds.</Empty>
      </Panel>
    );
  const route = answer.plan.routes.find((one) => one.promise === lit);
  const litLinks = new Set(route?.hops.flatMap((hop) => (hop.link ? [hop.link] : [])) ?? (tapped ? [tapped] : []));
  const tap = (link: string) => {
    light(undefined);
    setTapped(link === tapped ? undefined : link);
  };
  const shown = new Set(answer.plan.joins.map((join) => join.family));
  const idle = answer.drawing.devices.filter((device) => !device.used);
  return (
    <div className="grid gap-3 lg:h-full lg:grid-cols-[minmax(0,1fr)_25rem]">
      <Panel
        title="Rig map"
        className="min-h-[28rem]"
        actions={
          <ul className="flex flex-wrap gap-4 text-sm">
            {[...shown].map((family) => (
              <li key={family} className="flex items-center gap-2">
                <svg width="44" height="10" aria-hidden>
                  <line
                    x1="2"
                    x2="42"
                    y1="5"
                    y2="5"
                    stroke={`var(--${family === "motor-bus" ? "power" : family})`}
                    strokeWidth={PATTERNS[family]?.width}
                    strokeDasharray={PATTERNS[family]?.dash}
                    strokeLinecap={family === "radio" ? "round" : "butt"}
                  />
                </svg>
                {PATTERNS[family]?.word}
              </li>
            ))}
          </ul>
        }
      >
        <div className="flex h-full flex-col gap-2">
          <div className="min-h-0 flex-1">
            <RigMap answer={answer} lit={litLinks} onTap={tap} />
          </div>
          {idle.length > 0 && <p className="text-soft">Stays in its case: {idle.map((device) => device.name).join(", ")}.</p>}
          <Figures answer={answer} />
        </div>
      </Panel>
      <Panel title="Cable schedule" scroll>
        <Schedule rows={answer.drawing.schedule} lit={litLinks} onTap={tap} />
      </Panel>
    </div>
  );
}
