import { useState } from "react";

import type { Rig } from "../../../api/client";
import { Button, Choose, type Choice, NumberField, Panel, TextField, TickBox } from "../../../ui";
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
      <DayItself job={job} day={day} places={places} onChange={onChange} />
      {day.call && (
        <div className="mt-4">
          <Spans name="meal" spans={day.meals ?? []} call={day.call} onChange={(meals) => onChange({ meals })} />
        </div>
      )}
      {day.call && <Mains day={day} call={day.call} onChange={onChange} />}
      <ul className="mt-4 space-y-3">
        {blocks.map((block, number) => (
          <OneBlock
            key={number}
            block={block}
            call={day.call ?? block.begins}
            rigs={rigs}
            places={places}
            onChange={(next) => put(number, next)}
          />
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

/** When and where it is, and how cold. */
function DayItself({
  job,
  day,
  places,
  onChange,
}: {
  job: Job;
  day: JobDay;
  places: readonly Choice[];
  onChange: (change: Partial<JobDay>) => void;
}) {
  const [date, setDate] = useState(day.date);
  const free = (job.days ?? []).every((one) => one === day || one.date !== date);
  return (
    <div className="flex flex-wrap items-end gap-3">
      <TextField
        label={free ? "Date" : "That day is there already"}
        type="date"
        value={date}
        className=""
        aria-invalid={!free}
        onChange={setDate}
        onBlur={() => (date && free ? date !== day.date && onChange({ date }) : setDate(day.date))}
      />
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
      {!bySocket && (
        <Spans
          name="mains"
          spans={day.mains ?? []}
          call={call}
          besides={(one, put) => (
            <NumberField
              label={`Watts of the mains from ${one.begins}`}
              value={one.watts}
              unit="W"
              min={1}
              max={100000}
              step={50}
              onChange={(watts) => put({ ...one, watts })}
            />
          )}
          onChange={(mains) => onChange({ mains })}
        />
      )}
    </div>
  );
}

function OneBlock({
  block,
  call,
  rigs,
  places,
  onChange,
}: {
  block: Block;
  call: string;
  rigs: readonly Rig[];
  places: readonly Choice[];
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
        {places.length > 0 && (
          <Choose
            label={`Place of ${block.name}`}
            value={block.place ?? ""}
            choices={[{ value: "", label: "where the day is" }, ...places]}
            onChange={(place) => onChange({ ...block, place: place || null })}
          />
        )}
        <Button weight="quiet" aria-label={`Remove ${block.name}`} onClick={() => onChange(undefined)}>
          ✕
        </Button>
      </div>
      <div className="flex flex-wrap gap-2">
        {rigs.map((rig) => (
          <RigInBlock key={rig.id} rig={rig} block={block} onChange={onChange} />
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

/** How a rig is used in a block, and how much of it it rolls. */
function RigInBlock({ rig, block, onChange }: { rig: Rig; block: Block; onChange: (block: Block) => void }) {
  const used = (block.rigs ?? []).find((one) => one.rig === rig.id);
  return (
    <span className="inline-flex items-center gap-2">
      <span className="font-bold">{rig.camera}</span>
      <Choose
        label={`${rig.name} in ${block.name}`}
        value={used?.use ?? "none"}
        choices={[{ value: "none", label: "not in it" }, ...USES]}
        onChange={(use) => onChange(withUse(block, rig.id, use))}
      />
      {used?.use === "rolling" && (
        <NumberField
          label={`How much of ${block.name} ${rig.name} rolls`}
          value={used.rolling_percent}
          unit="%"
          min={0}
          max={100}
          step={5}
          placeholder="30"
          onChange={(rolls) =>
            onChange({ ...block, rigs: (block.rigs ?? []).map((one) => (one === used ? { ...one, rolling_percent: rolls ?? 30 } : one)) })
          }
        />
      )}
    </span>
  );
}
