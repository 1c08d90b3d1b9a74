import { useState } from "react";

import type { Rig } from "../../../api/client";
import { Button, Choose, NumberField, Panel, TextField, TickBox } from "../../../ui";
import { USES, withNextBlock, withUse, type Block, type Job, type JobDay } from "../model";
import { Spans } from "./spans";
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
      {day.call && <Mains day={day} call={day.call} onChange={onChange} />}
      <ul className="mt-4 space-y-3">
        {blocks.map((block, number) => (
          <OneBlock key={number} block={block} call={day.call ?? block.begins} rigs={rigs} onChange={(next) => put(number, next)} />
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

/** When the chargers have power: wherever the place has mains, or at the times that are said. */
function Mains({ day, call, onChange }: { day: JobDay; call: string; onChange: (change: Partial<JobDay>) => void }) {
  const [kept, setKept] = useState(day.mains ?? []);
  const bySocket = day.mains == null;
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      <label className="flex min-h-11 items-center gap-3">
        <TickBox
          checked={bySocket}
          onChange={(yes) => {
            if (yes) setKept(day.mains ?? []);
            onChange({ mains: yes ? null : kept });
          }}
        />
        The chargers have mains wherever the place has
      </label>
      {!bySocket && <Spans name="mains" spans={day.mains ?? []} call={call} onChange={(mains) => onChange({ mains })} />}
    </div>
  );
}

function OneBlock({
  block,
  call,
  rigs,
  onChange,
}: {
  block: Block;
  call: string;
  rigs: readonly Rig[];
  onChange: (block: Block | undefined) => void;
}) {
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
      <Spans
        name="pause"
        spans={block.pauses ?? []}
        call={(block.pauses ?? []).length > 0 ? call : block.begins}
        onChange={(pauses) => onChange({ ...block, pauses })}
      />
    </li>
  );
}
