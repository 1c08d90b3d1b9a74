import type { Catalogue, Profile } from "../../../api/client";
import { Button, Choose, Panel } from "../../../ui";
import { refsOf, toggled } from "../model";

type Props = { draft: Profile; catalogue: Catalogue | undefined; onChange: (draft: Profile) => void };

/** What it carries out for others, and what its own surfaces give: functions as chips, over a port or radio. */
export function Functions(props: Props) {
  return (
    <Panel title="What it does">
      <Takes {...props} />
      <Gives {...props} />
    </Panel>
  );
}

const refsIn = (draft: Profile) => refsOf(draft).map((value) => ({ value, label: value }));

function Takes({ draft, catalogue, onChange }: Props) {
  const refs = refsIn(draft);
  const accepts = draft.accepts ?? [];
  const change = (at: number, part: Partial<(typeof accepts)[number]>) =>
    onChange({ ...draft, accepts: accepts.map((old, place) => (place === at ? { ...old, ...part } : old)) });
  return (
    <>
      <h3 className="font-semibold">It takes from others</h3>
      {accepts.every((one) => !one.over) && <p className="text-soft">Nothing yet.</p>}
      {accepts.map((one, number) =>
        one.over ? (
          <Row
            key={number}
            names={catalogue?.functions ?? {}}
            chosen={one.functions}
            onToggle={(item) => change(number, { functions: toggled(one.functions, item) })}
            onDrop={() => onChange({ ...draft, accepts: accepts.filter((_, place) => place !== number) })}
          >
            over
            <Choose label="Over" value={one.over} choices={withNow(refs, one.over)} onChange={(over) => change(number, { over })} />
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
    </>
  );
}

function Gives({ draft, catalogue, onChange }: Props) {
  const refs = refsIn(draft);
  const surfaces = (draft.surfaces ?? []).map((one) => ({ value: one.id, label: one.name }));
  const emits = draft.emits ?? [];
  const change = (at: number, part: Partial<(typeof emits)[number]>) =>
    onChange({ ...draft, emits: emits.map((old, place) => (place === at ? { ...old, ...part } : old)) });
  const another = { functions: ["record"], surface: surfaces[0]?.value ?? "", over: refs[0]?.value ?? "" } as (typeof emits)[number];
  return (
    <>
      <h3 className="mt-5 font-semibold">Its surfaces give</h3>
      {emits.length === 0 && <p className="text-soft">Nothing yet.</p>}
      {emits.map((one, number) => (
        <Row
          key={number}
          names={catalogue?.functions ?? {}}
          chosen={one.functions}
          onToggle={(item) => change(number, { functions: toggled(one.functions, item) })}
          onDrop={() => onChange({ ...draft, emits: emits.filter((_, place) => place !== number) })}
        >
          from
          <Choose
            label="Surface"
            value={one.surface}
            choices={withNow(surfaces, one.surface)}
            onChange={(surface) => change(number, { surface })}
          />
          over
          <Choose label="Over" value={one.over} choices={withNow(refs, one.over)} onChange={(over) => change(number, { over })} />
        </Row>
      ))}
      <Button
        className="mt-2"
        disabled={refs.length === 0 || surfaces.length === 0}
        onClick={() => onChange({ ...draft, emits: [...emits, another] })}
      >
        + gives
      </Button>
    </>
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
