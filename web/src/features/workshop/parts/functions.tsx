import type { Catalogue, Profile } from "../../../api/client";
import { Button, Choose, Panel } from "../../../ui";
import { refsOf, toggled } from "../model";

type Props = { draft: Profile; catalogue: Catalogue | undefined; onChange: (draft: Profile) => void };

/** What it carries out for others, and what its own surfaces give: functions as chips, over a port or radio. */
export function Functions({ draft, catalogue, onChange }: Props) {
  const refs = refsOf(draft).map((value) => ({ value, label: value }));
  const surfaces = (draft.surfaces ?? []).map((one) => ({ value: one.id, label: one.name }));
  const accepts = draft.accepts ?? [];
  const emits = draft.emits ?? [];
  const names = catalogue?.functions ?? {};
  return (
    <Panel title="What it does">
      <h3 className="font-semibold">It takes from others</h3>
      {accepts.every((one) => !one.over) && <p className="text-soft">Nothing yet.</p>}
      {accepts.map((one, number) =>
        one.over ? (
          <Row
            key={number}
            names={names}
            chosen={one.functions}
            onToggle={(item) =>
              onChange({
                ...draft,
                accepts: accepts.map((old, place) => (place === number ? { ...old, functions: toggled(old.functions, item) } : old)),
              })
            }
            onDrop={() => onChange({ ...draft, accepts: accepts.filter((_, place) => place !== number) })}
          >
            over
            <Choose
              label="Over"
              value={one.over}
              choices={withNow(refs, one.over)}
              onChange={(over) => onChange({ ...draft, accepts: accepts.map((old, place) => (place === number ? { ...old, over } : old)) })}
            />
          </Row>
        ) : null,
      )}
      <Button
        className="mt-2"
        disabled={refs.length === 0}
        onClick={() =>
          onChange({ ...draft, accepts: [...accepts, { functions: ["record"], over: refs[0]?.value ?? "" } as (typeof accepts)[number]] })
        }
      >
        + takes
      </Button>
      <h3 className="mt-5 font-semibold">Its surfaces give</h3>
      {emits.length === 0 && <p className="text-soft">Nothing yet.</p>}
      {emits.map((one, number) => (
        <Row
          key={number}
          names={names}
          chosen={one.functions}
          onToggle={(item) =>
            onChange({
              ...draft,
              emits: emits.map((old, place) => (place === number ? { ...old, functions: toggled(old.functions, item) } : old)),
            })
          }
          onDrop={() => onChange({ ...draft, emits: emits.filter((_, place) => place !== number) })}
        >
          from
          <Choose
            label="Surface"
            value={one.surface}
            choices={withNow(surfaces, one.surface)}
            onChange={(surface) => onChange({ ...draft, emits: emits.map((old, place) => (place === number ? { ...old, surface } : old)) })}
          />
          over
          <Choose
            label="Over"
            value={one.over}
            choices={withNow(refs, one.over)}
            onChange={(over) => onChange({ ...draft, emits: emits.map((old, place) => (place === number ? { ...old, over } : old)) })}
          />
        </Row>
      ))}
      <Button
        className="mt-2"
        disabled={refs.length === 0 || surfaces.length === 0}
        onClick={() =>
          onChange({
            ...draft,
            emits: [
              ...emits,
              { functions: ["record"], surface: surfaces[0]?.value ?? "", over: refs[0]?.value ?? "" } as (typeof emits)[number],
            ],
          })
        }
      >
        + gives
      </Button>
    </Panel>
  );
}

function withNow(choices: { value: string; label: string }[], now: string) {
  return choices.some((one) => one.value === now) ? choices : [...choices, { value: now, label: now }];
}

function Row({
  names,
  chosen,
  onToggle,
  onDrop,
  children,
}: {
  names: Record<string, string>;
  chosen: readonly string[];
  onToggle: (item: string) => void;
  onDrop: () => void;
  children: React.ReactNode;
}) {
  return (
    <div className="mt-2 rounded-md bg-raised p-2">
      <div className="flex flex-wrap items-center gap-2">
        {children}
        <Button weight="quiet" className="ml-auto" onClick={onDrop}>
          Drop
        </Button>
      </div>
      <div className="mt-2 flex flex-wrap gap-1">
        {Object.entries(names).map(([key, name]) => (
          <button
            key={key}
            type="button"
            aria-pressed={chosen.includes(key)}
            onClick={() => onToggle(key)}
            className={`min-h-11 rounded-md border px-2 text-sm ${chosen.includes(key) ? "border-lead bg-lead font-semibold text-on-lead" : "border-edge text-soft"}`}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}
