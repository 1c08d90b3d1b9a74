import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Choose, NumberField, Panel } from "../../../ui";
import { catalogueQuery, useDraft, Waiting } from "../../../rig";
import { arrow, type Attempt, figure, type Gimbal, isCarried, NOTHING_TRIED, SIDES, type Sits, tries, WEIGHT } from "../model";
import { tryQuery } from "../queries";
import { Said } from "./left";

/** A change tried in the head: what comes off, what goes on and where, and the marks that it would lead to. */
export function Trying({ gimbal }: { gimbal: Gimbal }) {
  const [attempt, setAttempt] = useState<Attempt>(NOTHING_TRIED);
  const change = (part: Partial<Attempt>) => setAttempt((now) => ({ ...now, ...part }));
  const items = (gimbal.items ?? []).filter(isCarried);
  const isOff = (key: string) => attempt.off.includes(key);
  return (
    <Panel
      title="Before you touch it: try a change"
      actions={tries(attempt) && <Button onClick={() => setAttempt(NOTHING_TRIED)}>Start over</Button>}
    >
      <p className="text-soft">Comes off</p>
      <div role="group" aria-label="Comes off" className="mt-1 flex flex-wrap gap-1">
        {items.map((one) => (
          <Button
            key={one.key}
            weight={isOff(one.key) ? "lead" : "plain"}
            aria-pressed={isOff(one.key)}
            onClick={() => change({ off: isOff(one.key) ? attempt.off.filter((key) => key !== one.key) : [...attempt.off, one.key] })}
          >
            {isOff(one.key) && "− "}
            {one.name}
          </Button>
        ))}
      </div>
      <GoesOn gimbal={gimbal} attempt={attempt} change={change} />
      {tries(attempt) && <Outcome gimbal={gimbal} attempt={attempt} />}
    </Panel>
  );
}

type Edits = { gimbal: Gimbal; attempt: Attempt; change: (part: Partial<Attempt>) => void };

function GoesOn({ gimbal, attempt, change }: Edits) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const shelf = (catalogue?.profiles ?? []).filter((one) => one.stage === "tilt-cage");
  const items = (gimbal.items ?? []).filter((one) => one.size.right > 0);
  const places = [
    ...items.filter((one) => attempt.off.includes(one.key)).map((one) => ({ value: `-${one.key}`, label: `in place of ${one.name}` })),
    ...items.filter((one) => !attempt.off.includes(one.key)).map((one) => ({ value: one.key, label: `on ${one.name}` })),
  ];
  const where = places.some((one) => one.value === attempt.where) ? attempt.where : (places[0]?.value ?? "");
  return (
    <>
      <p className="mt-3 text-soft">Goes on</p>
      <div className="mt-1 flex flex-wrap gap-2">
        <Choose
          label="Goes on"
          value={attempt.what}
          choices={[
            { value: "", label: "nothing" },
            { value: WEIGHT, label: "something weighed" },
            ...shelf.map((one) => ({ value: one.id, label: one.name })),
          ]}
          onChange={(what) => change({ what, where })}
        />
        {attempt.what && (
          <>
            <NumberField
              key={attempt.what}
              label="It weighs"
              value={attempt.mass_g}
              unit="g"
              min={1}
              max={30000}
              step={10}
              placeholder={attempt.what === WEIGHT ? "?" : "as told"}
              onChange={(mass_g) => change({ mass_g, where })}
            />
            <Choose label="Where" value={where} choices={places} onChange={(next) => change({ where: next })} />
            {!where.startsWith("-") && (
              <Choose
                label="On which side"
                value={attempt.side}
                choices={SIDES}
                onChange={(side) => change({ side: side as Sits["side"] })}
              />
            )}
          </>
        )}
      </div>
    </>
  );
}

function Outcome({ gimbal, attempt }: { gimbal: Gimbal; attempt: Attempt }) {
  const { rig } = useDraft();
  const query = useQuery(tryQuery(rig, gimbal, attempt));
  const { data } = query;
  if (!data) return <Waiting name="balance-try" query={query} says="Reckoning moments" />;
  return (
    <div aria-live="polite" className="mt-3 space-y-3 border-t border-edge pt-3">
      <p className={`text-lg font-bold ${(data.beyond ?? []).length > 0 ? "text-bad" : ""}`}>
        {(data.beyond ?? []).length > 0 && <span aria-hidden>✕ </span>}
        {data.says}
      </p>
      <ul aria-label="Scales that would move" className="grid gap-2">
        {data.moves.map((one) => (
          <li key={one.slide} className="flex items-baseline justify-between gap-3 rounded-md bg-raised px-3 py-2">
            <span>
              <b>{one.name}</b>
              <span className="block text-soft">
                {figure(one.from_mm)} to {figure(one.to_mm)} mm
              </span>
            </span>
            <span className="text-2xl font-bold whitespace-nowrap tabular-nums">
              <span aria-hidden>{arrow(one.way)}</span> {figure(Math.abs(one.by_mm))}
              <span className="text-base font-normal"> mm {one.way}</span>
            </span>
          </li>
        ))}
      </ul>
      <Said mark="✕" of={data.beyond ?? []} />
      <Said mark="▶" of={(data.cures ?? []).map((one) => one.says)} />
      <Said mark="▲" of={[`${(data.payload_g / 1000).toFixed(2)} kg in its cage then.`, ...(data.remarks ?? [])]} />
    </div>
  );
}
