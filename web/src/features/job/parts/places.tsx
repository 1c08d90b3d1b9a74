import { Button, Choose, Panel } from "../../../ui";
import { freeName, withPlace, type Job } from "../model";
import { NameField } from "./name-field";
import { NoteLine } from "./note";

const MAINS = [
  { value: "yes", label: "has mains" },
  { value: "no", label: "no mains" },
  { value: "unknown", label: "mains unknown" },
];
const SAID: Record<string, boolean | null> = { yes: true, no: false, unknown: null };

/** Where the job is shot, and where there is a socket to charge from. */
export function Places({ job, onChange }: { job: Job; onChange: (job: Job) => void }) {
  const places = job.places ?? [];
  const names = places.map((one) => one.name);
  return (
    <Panel title="Places">
      <ul className="space-y-2">
        {places.map((one, number) => (
          <li key={number} className="flex flex-wrap items-end gap-2">
            <NameField
              label="Place"
              value={one.name}
              taken={names}
              onChange={(name) => onChange(withPlace(job, number, { ...one, name }))}
            />
            <Choose
              label={`Mains at ${one.name}`}
              value={one.mains == null ? "unknown" : one.mains ? "yes" : "no"}
              choices={MAINS}
              onChange={(said) => onChange(withPlace(job, number, { ...one, mains: SAID[said] }))}
            />
            <NoteLine
              label={`To know at ${one.name}`}
              placeholder="key, parking, who to ask"
              value={one.note}
              onChange={(note) => onChange(withPlace(job, number, { ...one, note }))}
            />
            <Button weight="quiet" aria-label={`Remove ${one.name}`} onClick={() => onChange(withPlace(job, number, undefined))}>
              ✕
            </Button>
          </li>
        ))}
      </ul>
      <Button className="mt-2" onClick={() => onChange({ ...job, places: [...places, { name: freeName("Place", names) }] })}>
        + Place
      </Button>
    </Panel>
  );
}
