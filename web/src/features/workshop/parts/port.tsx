import type { Catalogue, Profile } from "../../../api/client";
import { Button, Choose, Dialog, NumberField, TextField } from "../../../ui";
import { newRole, roleWords, SIDES, withoutPort, withPort, type Port, type Role, type Side } from "../model";

const KINDS: { kind: Role["kind"]; name: string }[] = [
  { kind: "control", name: "control" },
  { kind: "video", name: "a picture" },
  { kind: "power", name: "power" },
];
const FLOWS = [
  { value: "in", label: "in" },
  { value: "out", label: "out" },
];
const ENDS = [
  { value: "host", label: "host" },
  { value: "device", label: "device" },
  { value: "peer", label: "peer" },
];

type Props = { port: Port; draft: Profile; catalogue: Catalogue | undefined; onChange: (draft: Profile) => void; onClose: () => void };

/** One port: what is printed beside it, where it is, what plug it takes, and what it can do. */
export function PortDialog({ port, draft, catalogue, onChange, onClose }: Props) {
  const change = (part: Partial<Port>) => onChange(withPort(draft, port.id, part));
  const roles = port.roles ?? [];
  const connectors = Object.entries(catalogue?.connectors ?? {}).map(([value, label]) => ({ value, label }));
  return (
    <Dialog open onClose={onClose} title={`Port “${port.marking}”`}>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          className="min-w-36 flex-1"
          label="Marking, as printed"
          value={port.marking}
          onChange={(marking) => change({ marking })}
        />
        <TextField
          className="min-w-36 flex-1"
          label="Place, as you would tell it by telephone"
          value={port.place}
          onChange={(place) => change({ place })}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Choose
          label="Side"
          value={port.side}
          choices={SIDES.map((side) => ({ value: side, label: side }))}
          onChange={(side) => change({ side: side as Side })}
        />
        <Choose label="Connector" value={port.connector} choices={connectors} onChange={(connector) => change({ connector })} />
      </div>
      <h3 className="mt-5 mb-1 font-semibold">What it can do</h3>
      {roles.length === 0 && <p className="text-soft">Nothing: it is only in the way.</p>}
      <ul className="space-y-2">
        {roles.map((role, number) => (
          <li key={number} className="rounded-md bg-raised p-2">
            <p className="mb-1 text-sm text-soft">{roleWords(role)}</p>
            <RoleFields
              role={role}
              spoken={catalogue?.spoken ?? []}
              onChange={(next) => change({ roles: roles.map((old, place) => (place === number ? next : old)) })}
              onDrop={() => change({ roles: roles.filter((_, place) => place !== number) })}
            />
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {KINDS.map(({ kind, name }) => (
          <Button key={kind} onClick={() => change({ roles: [...roles, newRole(kind)] })}>
            + {name}
          </Button>
        ))}
        <Button
          weight="quiet"
          className="ml-auto"
          onClick={() => {
            onClose();
            onChange(withoutPort(draft, port.id));
          }}
        >
          Take the port away
        </Button>
      </div>
    </Dialog>
  );
}

type Part<K extends Role["kind"]> = { role: Extract<Role, { kind: K }>; spoken: string[]; change: (part: object) => void };

function RoleFields({
  role,
  spoken,
  onChange,
  onDrop,
}: {
  role: Role;
  spoken: string[];
  onChange: (role: Role) => void;
  onDrop: () => void;
}) {
  const change = (part: object) => onChange({ ...role, ...part } as Role);
  return (
    <div className="flex flex-wrap items-end gap-2">
      {role.kind === "control" && <ControlFields role={role} spoken={spoken} change={change} />}
      {role.kind === "video" && <VideoFields role={role} spoken={spoken} change={change} />}
      {role.kind === "power" && <PowerFields role={role} spoken={spoken} change={change} />}
      <Button weight="quiet" onClick={onDrop}>
        Drop
      </Button>
    </div>
  );
}

function ControlFields({ role, spoken, change }: Part<"control">) {
  return (
    <>
      <TextField
        className="min-w-36 flex-1"
        label="Protocol"
        known={spoken}
        value={role.protocol}
        onChange={(protocol) => change({ protocol })}
      />
      <TextField className="min-w-36 flex-1" label="Medium" value={role.medium ?? ""} onChange={(medium) => change({ medium })} />
      <Choose label="End" value={role.end ?? "peer"} choices={ENDS} onChange={(end) => change({ end })} />
    </>
  );
}

function VideoFields({ role, spoken, change }: Part<"video">) {
  return (
    <>
      <Choose label="Flow" value={role.flow} choices={FLOWS} onChange={(flow) => change({ flow })} />
      <TextField className="min-w-36 flex-1" label="Signal" known={spoken} value={role.signal} onChange={(signal) => change({ signal })} />
      <TextField
        className="min-w-36 flex-1"
        label="Formats, best first"
        value={role.formats.join(", ")}
        onChange={(text) => change({ formats: text.split(/[\s,]+/).filter(Boolean) })}
      />
    </>
  );
}

function PowerFields({ role, change }: Part<"power">) {
  return (
    <>
      <Choose label="Flow" value={role.flow} choices={FLOWS} onChange={(flow) => change({ flow })} />
      <NumberField
        label="Least volts"
        value={role.min_v}
        unit="V"
        min={1}
        max={60}
        step={0.1}
        onChange={(value) => value !== null && change({ min_v: value })}
      />
      <NumberField
        label="Most volts"
        value={role.max_v}
        unit="V"
        min={1}
        max={60}
        step={0.1}
        onChange={(value) => value !== null && change({ max_v: value })}
      />
      <NumberField
        label="Most amps"
        value={role.max_a}
        unit="A"
        min={0.01}
        max={60}
        step={0.1}
        onChange={(value) => change({ max_a: value })}
      />
    </>
  );
}
