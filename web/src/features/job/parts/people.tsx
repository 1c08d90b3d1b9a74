import { Button, Panel, TextField } from "../../../ui";
import { freeName, type JobPerson } from "../model";
import { NameField } from "./name-field";

/** What people do on a set, offered while it is typed. */
const KNOWN = ["Operator", "Focus puller", "Second assistant", "Video assist", "Data wrangler", "Grip", "Director"];

/** Who is on the job, and as what. */
export function People({ people, onChange }: { people: readonly JobPerson[]; onChange: (people: JobPerson[]) => void }) {
  const names = people.map((one) => one.name);
  const put = (number: number, next: JobPerson | undefined) =>
    onChange(people.flatMap((one, at) => (at === number ? (next ? [next] : []) : [one])));
  return (
    <Panel title="People">
      <ul className="space-y-2">
        {people.map((one, number) => (
          <li key={number} className="flex flex-wrap items-end gap-2">
            <NameField label="Name" value={one.name} taken={names} onChange={(name) => put(number, { ...one, name })} />
            <TextField
              label={`What ${one.name} does`}
              value={one.does ?? ""}
              known={KNOWN}
              maxLength={80}
              className="min-w-44 flex-[2]"
              onChange={(does) => put(number, { ...one, does: does || null })}
            />
            <Button weight="quiet" aria-label={`Remove ${one.name}`} onClick={() => put(number, undefined)}>
              ✕
            </Button>
          </li>
        ))}
      </ul>
      <Button className="mt-2" onClick={() => onChange([...people, { name: freeName("Person", names) }])}>
        + Person
      </Button>
    </Panel>
  );
}
