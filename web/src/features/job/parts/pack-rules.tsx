import { NumberField, Panel, TickBox } from "../../../ui";
import type { Job } from "../model";

type Rules = NonNullable<Job["packs"]>;

const SAID: { field: "packs_move" | "part_charges" | "charge_at_meals"; says: string }[] = [
  { field: "packs_move", says: "A pack may go from one rig to another" },
  { field: "part_charges", says: "A pack may leave the charger before it is full" },
  { field: "charge_at_meals", says: "Packs are put on charge during meals" },
];

/** What the crew allows with its packs. */
export function PackRules({ rules, onChange }: { rules: Rules; onChange: (rules: Rules) => void }) {
  return (
    <Panel title="Packs">
      <ul className="space-y-1">
        {SAID.map(({ field, says }) => (
          <li key={field}>
            <label className="flex min-h-11 items-center gap-3">
              <TickBox checked={rules[field] ?? true} onChange={(yes) => onChange({ ...rules, [field]: yes })} />
              {says}
            </label>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex items-center gap-2">
        <span>From a rig to the chargers</span>
        <NumberField
          label="Minutes from a rig to the chargers"
          value={rules.walk_min}
          unit="min"
          min={0}
          max={60}
          step={5}
          placeholder="5"
          onChange={(walk_min) => onChange({ ...rules, walk_min: walk_min ?? 5 })}
        />
      </p>
    </Panel>
  );
}
