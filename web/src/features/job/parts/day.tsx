import { useState } from "react";

import type { Rig } from "../../../api/client";
import { Button, Choose, NumberField, Panel, TextField, TextInput } from "../../../ui";
import { timeOf, USES, withNextBlock, withUse, type Block, type Job, type JobDay } from "../model";

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

/** A time of the day, as a call sheet has it. It is taken once it is one: `1830`, `18:30` and `18.30` all are. */
function Time({ label, value, onChange }: { label: string; value: string | null | undefined; onChange: (time: string | null) => void }) {
  const [typed, setTyped] = useState<string>();
  const bad = typed !== undefined && typed !== "" && !timeOf(typed);
  return (
    <label className="block">
      <span className="block text-sm text-soft">{label}</span>
      <TextInput
        inputMode="numeric"
        placeholder="18:30"
        maxLength={5}
        aria-invalid={bad}
        title={bad ? "A time such as 18:30" : undefined}
        className={`w-24 tabular-nums ${bad ? "text-bad" : ""}`}
        value={typed ?? value ?? ""}
        onChange={(event) => {
          const words = event.target.value;
          setTyped(words);
          if (words === "") onChange(null);
          else if (timeOf(words)) onChange(timeOf(words)!);
        }}
        onBlur={() => setTyped(undefined)}
      />
    </label>
  );
}
