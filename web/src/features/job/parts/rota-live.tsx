import { useState } from "react";

import { Button, Choose, NumberField, Panel } from "../../../ui";
import type { JobDay } from "../model";
import { blockAt, clockNow, longer, withHappened, type Rota } from "../rota";
import { Time } from "./time";

/** The day while it runs: from when on it is planned again, what was read, and a block that goes on. */
export function RotaLive({
  rota,
  day,
  now,
  onNow,
  onChange,
}: {
  rota: Rota;
  day: JobDay;
  now: string | undefined;
  onNow: (now: string | undefined) => void;
  onChange: (change: Partial<JobDay>) => void;
}) {
  const block = now === undefined ? undefined : blockAt(day, now);
  return (
    <Panel title={now === undefined ? "The whole day" : `From ${now} on`}>
      <div className="flex flex-wrap items-end gap-2">
        <Time label="It is" value={now} onChange={(time) => onNow(time ?? undefined)} />
        <Button onClick={() => onNow(clockNow())}>Now</Button>
        {now !== undefined && (
          <Button weight="quiet" onClick={() => onNow(undefined)}>
            Whole day
          </Button>
        )}
      </div>
      {block && (
        <p className="mt-3 flex flex-wrap items-center gap-3">
          <span>
            On now: <b>{block.name}</b>, to {block.ends}
          </span>
          <Button onClick={() => onChange(longer(day, block, 15))}>It goes on, 15 min more</Button>
        </p>
      )}
      {now !== undefined && (
        <Reading rota={rota} onRead={(rig, device, volts) => onChange(withHappened(day, { kind: "read", at: now, rig, device, volts }))} />
      )}
      {(rota.noted ?? []).length > 0 && (
        <ul className="mt-3 list-disc space-y-1 pl-5">
          {(rota.noted ?? []).map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
    </Panel>
  );
}

function Reading({ rota, onRead }: { rota: Rota; onRead: (rig: string, device: string, volts: number) => void }) {
  const [key, setKey] = useState(rota.seats[0]?.key ?? "");
  const [volts, setVolts] = useState<number | null>(null);
  const seat = rota.seats.find((one) => one.key === key) ?? rota.seats[0];
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (seat && volts !== null) onRead(seat.rig, seat.device, volts);
        setVolts(null);
      }}
    >
      <Choose
        label="Battery that was read"
        value={seat?.key ?? ""}
        choices={rota.seats.map((one) => ({ value: one.key, label: `${one.camera}, ${one.name}` }))}
        onChange={setKey}
      />
      <NumberField
        key={rota.noted?.length ?? 0}
        label="Volts that were read"
        value={volts}
        unit="V"
        min={0.5}
        max={60}
        step={0.1}
        placeholder="14.1"
        onChange={setVolts}
      />
      <Button type="submit" disabled={volts === null}>
        It reads so
      </Button>
    </form>
  );
}
