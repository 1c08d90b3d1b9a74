import type { Catalogue, Profile } from "../../../api/client";
import { STAGE_CHOICES } from "../../../rig";
import { Choose, NumberField, Panel, TextField } from "../../../ui";
import { idFrom } from "../model";

/** What the device is called, what it weighs and draws, where it sits. One that is kept keeps its id: rigs name it by that. */
export function Heading({
  draft,
  isKept,
  catalogue,
  onChange,
}: {
  draft: Profile;
  isKept: boolean;
  catalogue: Catalogue | undefined;
  onChange: (draft: Profile) => void;
}) {
  const kinds = Object.entries(catalogue?.kinds ?? {}).map(([value, label]) => ({ value, label }));
  const power = draft.power;
  return (
    <Panel title="What it is">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          className=""
          label="Name"
          value={draft.name}
          onChange={(name) => onChange({ ...draft, name, id: isKept ? draft.id : idFrom(name) })}
        />
        <TextField
          className=""
          label="What matters about it, in a sentence"
          value={draft.summary}
          onChange={(summary) => onChange({ ...draft, summary })}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="flex items-center gap-2">
          is a
          <Choose label="Kind" value={draft.kind} choices={kinds} onChange={(kind) => onChange({ ...draft, kind })} />
        </span>
        <span className="flex items-center gap-2">
          and sits on the
          <Choose
            label="Stage"
            value={draft.stage}
            choices={STAGE_CHOICES}
            onChange={(stage) => onChange({ ...draft, stage: stage as Profile["stage"] })}
          />
        </span>
        <span className="flex items-center gap-2">
          weighs
          <NumberField
            label="Mass"
            value={draft.mass_g}
            unit="g"
            min={1}
            max={50000}
            step={10}
            onChange={(value) => value !== null && onChange({ ...draft, mass_g: value })}
          />
        </span>
        {power && (
          <span className="flex items-center gap-2">
            draws
            <NumberField
              label="Draw"
              value={power.draw_w}
              unit="W"
              min={0}
              max={500}
              step={0.1}
              onChange={(value) => value !== null && onChange({ ...draft, power: { ...power, draw_w: value } })}
            />
          </span>
        )}
        <span className="text-soft">id: {draft.id}</span>
      </div>
    </Panel>
  );
}
