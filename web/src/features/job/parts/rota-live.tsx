import { useState } from "react";

import { Button, Choose, NumberField, Panel } from "../../../ui";
import type { JobDay } from "../model";
import type { Note } from "../queries";
import { blockAt, clockNow, longer, type Happened, type Rota, type SeatRow } from "../rota";
import { Time } from "./time";

/** The day while it runs: from when on it is planned again, what was read, and a block that goes on. */
export function RotaLive({
  rota,
  day,
  now,
  onNow,
  onLonger,
  onSaid,
}: {
  rota: Rota;
  day: JobDay;
  now: string | undefined;
  onNow: (now: string | undefined) => void;
  /** Left out for who may not. */
  onLonger: ((change: Partial<JobDay>) => void) | undefined;
  onSaid: ((what: Happened, note: Note | undefined) => void) | undefined;
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
          {onLonger && <Button onClick={() => onLonger(longer(day, block, 15))}>It goes on, 15 min more</Button>}
        </p>
      )}
      {now !== undefined && onSaid && <Reading rota={rota} now={now} onSaid={onSaid} />}
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

/** The red lamp, as the rig's log keeps it. */
const lampNote = (seat: SeatRow): Note => ({
  rig: seat.rig,
  device: seat.device,
  what: "note",
  reason: `Red lamp: ${seat.rolls_from_lamp_min} min left rolling`,
});

function Reading({ rota, now, onSaid }: { rota: Rota; now: string; onSaid: (what: Happened, note: Note | undefined) => void }) {
  const [key, setKey] = useState(rota.seats[0]?.key ?? "");
  const [volts, setVolts] = useState<number | null>(null);
  const seat = rota.seats.find((one) => one.key === key) ?? rota.seats[0];
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (seat && volts !== null) onSaid({ kind: "read", at: now, rig: seat.rig, device: seat.device, volts }, undefined);
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
      {seat?.rolls_from_lamp_min != null && (
        <Button onClick={() => onSaid({ kind: "lamp", at: now, rig: seat.rig, device: seat.device }, lampNote(seat))}>
          Its red lamp is on
        </Button>
      )}
    </form>
  );
}
