import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Empty, NumberField, Panel } from "../../../ui";
import { Calculations, useAnswer, useDraft, Waiting } from "../../../rig";
import { ENERGY, whens, withEnergy, type Tree, type When } from "../model";
import { powerQuery } from "../queries";
import { Batteries } from "./batteries";
import { Curve } from "./curve";
import { FeedTree } from "./tree";

/** Who runs from what, volts and watts everywhere, what is near its limit, and how each battery empties. */
export function PowerScreen() {
  const { rig } = useDraft();
  const { isPlanning } = useAnswer();
  const query = useQuery({ ...powerQuery(rig), enabled: !isPlanning });
  const { data } = query;
  return (
    <div className="space-y-3">
      <Waiting name="power" query={query} says="Reckoning volts and watts" />
      {data && (data.batteries.length > 0 ? <Told tree={data} /> : <Nothing says={data.says} />)}
    </div>
  );
}

function Nothing({ says }: { says: string }) {
  return (
    <Panel>
      <Empty title={says}>Promise something that this rig can keep: then it is known what is on, and what feeds it.</Empty>
    </Panel>
  );
}

function Told({ tree }: { tree: Tree }) {
  const [when, setWhen] = useState<When>("rule");
  const [chosen, setChosen] = useState<string>();
  const battery = tree.batteries.find((one) => one.device === chosen) ?? tree.batteries[0]!;
  return (
    <>
      <Panel title={tree.says} actions={<Whens when={when} stalls={tree.stalls} onChange={setWhen} />}>
        <FeedTree tree={tree} when={when} />
      </Panel>
      <div className="grid gap-3 @3xl:grid-cols-[1fr_1.4fr]">
        <Panel title="How long each lasts">
          <Batteries batteries={tree.batteries} chosen={battery.device} onChoose={setChosen} />
        </Panel>
        <Panel title={battery.name}>
          <Curve battery={battery} lowest={lowestOf(tree, battery.feeds)} />
          {battery.change && <p className="mt-2">{battery.change.says}</p>}
          {battery.why && (
            <dl className="mt-3">
              <Calculations of={[battery.why]} />
            </dl>
          )}
        </Panel>
      </div>
      <div className="grid gap-3 @3xl:grid-cols-[1fr_1.4fr]">
        <Reckoned />
        <Remarks tree={tree} />
      </div>
    </>
  );
}

function Whens({ when, stalls, onChange }: { when: When; stalls: boolean; onChange: (when: When) => void }) {
  return (
    <div role="group" aria-label="Volts and watts of which moment" className="flex flex-wrap gap-1">
      {whens(stalls).map((one) => (
        <Button
          key={one.when}
          weight={one.when === when ? "lead" : "plain"}
          aria-pressed={one.when === when}
          onClick={() => onChange(one.when)}
        >
          {one.name}
        </Button>
      ))}
    </div>
  );
}

/** What is reckoned with: cold, what is kept back, what is to spare. */
function Reckoned() {
  const { rig, edit } = useDraft();
  return (
    <Panel title="Reckoned with">
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        {ENERGY.map((field) => (
          <span key={field.key} className="flex items-center gap-2">
            {field.name}
            <NumberField
              label={field.name}
              value={rig.energy?.[field.key]}
              unit={field.unit}
              min={field.min}
              max={field.max}
              step={field.step}
              placeholder={field.none}
              onChange={(value) => (value !== null || field.none) && edit((now) => withEnergy(now, { [field.key]: value }))}
            />
          </span>
        ))}
      </div>
    </Panel>
  );
}

function Remarks({ tree }: { tree: Tree }) {
  const MARKS: Record<string, string> = {
    over: "✕",
    volts: "▲",
    near: "▲",
    asleep: "▲",
    charges: "●",
    clock: "●",
    switch: "●",
    unknown: "?",
  };
  return (
    <Panel title="To know">
      {tree.remarks.length === 0 && <p className="text-soft">Nothing is near a limit.</p>}
      <ul className="space-y-2">
        {tree.remarks.map((one) => (
          <li key={one.says} className="flex gap-3">
            <span aria-hidden className={one.kind === "over" ? "text-bad" : MARKS[one.kind] === "▲" ? "text-warn" : "text-soft"}>
              {MARKS[one.kind]}
            </span>
            {one.says}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** The highest volts that anything which hangs on the battery itself must have. */
function lowestOf(tree: Tree, feeds: readonly string[]): number | undefined {
  const asked = tree.devices.filter((one) => feeds.includes(one.device) && one.giver && one.lowest_v != null && one.lowest_v > 6);
  return asked.length > 0 ? Math.max(...asked.map((one) => one.lowest_v!)) : undefined;
}
