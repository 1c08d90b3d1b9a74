import { useState } from "react";

import type { Rig } from "../../../api/client";
import { Button, Choose, NumberField, Panel, TextField } from "../../../ui";
import { USES, withNextBlock, withUse, type Block, type Job, type JobDay } from "../model";
import { Time } from "./time";

/** What a day is: when it begins and ends, how cold it is, and what is shot when with which rigs. */
export function DayEditor({
  job,
  day,
  rigs,
  onChange,
  onRemove,
}: {
  job: Job;
  day: JobDay;
  rigs: readonly Rig[];
  onChange: (change: Partial<JobDay>) => void;
  onRemove: () => void;
}) {
  const blocks = day.blocks ?? [];
  const put = (number: number, block: Block | undefined) =>
    onChange({ blocks: blocks.flatMap((one, at) => (at === number ? (block ? [block] : []) : [one])) });
  const places = (job.places ?? []).map((one) => ({ value: one.name, label: one.name }));
  return (
    <Panel
      title="The day"
      actions={
        <Button weight="quiet" onClick={onRemove}>
          Remove this day
        </Button>
      }
    >
      <div className="flex flex-wrap items-end gap-3">
        <Time label="Call" value={day.call} onChange={(call) => onChange({ call })} />
        <Time label="Wrap" value={day.wrap} onChange={(wrap) => onChange({ wrap })} />
        {places.length > 0 && (
          <Choose
            label="Place"
            value={day.place ?? ""}
            choices={[{ value: "", label: "no place" }, ...places]}
            onChange={(place) => onChange({ place: place || null })}
          />
        )}
        <NumberField
          label="Temperature"
          value={day.temperature_c}
          unit="°C"
          min={-40}
          max={60}
          step={1}
          placeholder="20"
          onChange={(temperature_c) => onChange({ temperature_c })}
        />
      </div>
      <ul className="mt-4 space-y-3">
        {blocks.map((block, number) => (
          <OneBlock key={number} block={block} rigs={rigs} onChange={(next) => put(number, next)} />
        ))}
      </ul>
      <Button
        className="mt-3"
        onClick={() =>
          onChange(
            withNextBlock(
              day,
              rigs.map((rig) => rig.id),
            ),
          )
        }
      >
        + Block
      </Button>
    </Panel>
  );
}

function OneBlock({ block, rigs, onChange }: { block: Block; rigs: readonly Rig[]; onChange: (block: Block | undefined) => void }) {
  const [name, setName] = useState(block.name);
  return (
    <li className="space-y-2 border-t border-edge pt-3">
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label="Block"
          value={name}
          maxLength={80}
          onChange={(words) => {
            setName(words);
            if (words.trim()) onChange({ ...block, name: words.trim() });
          }}
        />
        <Time label="From" value={block.begins} onChange={(begins) => begins && onChange({ ...block, begins })} />
        <Time label="To" value={block.ends} onChange={(ends) => ends && onChange({ ...block, ends })} />
        <Button weight="quiet" aria-label={`Remove ${block.name}`} onClick={() => onChange(undefined)}>
          ✕
        </Button>
      </div>
      <div className="flex flex-wrap gap-2">
        {rigs.map((rig) => (
          <span key={rig.id} className="inline-flex items-center gap-2">
            <span className="font-bold">{rig.camera}</span>
            <Choose
              label={`${rig.name} in ${block.name}`}
              value={(block.rigs ?? []).find((one) => one.rig === rig.id)?.use ?? "none"}
              choices={[{ value: "none", label: "not in it" }, ...USES]}
              onChange={(use) => onChange(withUse(block, rig.id, use))}
            />
          </span>
        ))}
      </div>
    </li>
  );
}
