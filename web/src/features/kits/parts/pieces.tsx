import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Kit } from "../../../api/client";
import { Button, Choose, Dialog, Empty, familyToken, TextInput } from "../../../ui";
import { catalogueQuery } from "../../../rig";
import { rowsOf, several, withItem, withoutRow, withRow, type Row } from "../model";

/** So many pieces of a sort a kit can hold. */
const MOST_PIECES = 999;

/** Every piece of a kit with its count; a row opens for tags, firmware, licences and notes. */
export function Pieces({ kit, onChange }: { kit: Kit; onChange: (kit: Kit) => void }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const [open, setOpen] = useState<string>();
  const rows = rowsOf(kit, catalogue);
  const shown = rows.find((row) => row.key === open);
  return (
    <>
      {rows.length === 0 && <Empty title="Nothing in it yet">Bring in a list, or put in pieces one by one below.</Empty>}
      <ul className="-mt-2">
        {rows.map((row) => (
          <li key={row.key} className="flex items-center gap-2 border-b border-edge py-1">
            <span aria-hidden className="h-10 w-1.5 shrink-0 rounded" style={{ background: `var(--${familyToken(row.family)})` }} />
            <button
              type="button"
              onClick={() => setOpen(row.key)}
              className="min-h-11 min-w-0 flex-1 text-left leading-tight hover:bg-raised"
            >
              <span className="block">{row.name}</span>
              <span className="text-sm text-soft">{said(row) || "tap for tags, firmware, notes"}</span>
            </button>
            <Button
              aria-label={`One less: ${row.name}`}
              disabled={row.count === 0}
              onClick={() => onChange(withRow(kit, row, { count: row.count - 1 }))}
            >
              −
            </Button>
            <span className="w-8 text-center text-lg font-semibold tabular-nums">{row.count}</span>
            <Button
              aria-label={`One more: ${row.name}`}
              disabled={row.count >= MOST_PIECES}
              onClick={() => onChange(withRow(kit, row, { count: row.count + 1 }))}
            >
              +
            </Button>
          </li>
        ))}
      </ul>
      <PutIn kit={kit} onChange={onChange} />
      {shown && <Piece key={shown.key} row={shown} kit={kit} onChange={onChange} onClose={() => setOpen(undefined)} />}
    </>
  );
}

function said(row: Row): string {
  const parts = [
    row.tags.join(", "),
    row.firmware ? `firmware ${row.firmware}` : "",
    row.licences.length ? `licence ${row.licences.join(", ")}` : "",
    row.note ?? "",
  ];
  return parts.filter(Boolean).join("; ");
}

function PutIn({ kit, onChange }: { kit: Kit; onChange: (kit: Kit) => void }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const [chosen, setChosen] = useState("");
  const have = new Set([...(kit.devices ?? []).map((one) => one.profile), ...(kit.cables ?? []).map((one) => one.cable)]);
  const choices = [
    ...(catalogue?.profiles ?? []).map((one) => ({ value: `device ${one.id}`, label: one.name, id: one.id })),
    ...(catalogue?.cables ?? []).map((one) => ({ value: `cable ${one.id}`, label: one.name, id: one.id })),
  ].filter((one) => !have.has(one.id));
  const value = choices.some((one) => one.value === chosen) ? chosen : (choices[0]?.value ?? "");
  if (!value) return null;
  return (
    <div className="mt-3 flex gap-2">
      <Choose label="Piece" value={value} choices={choices} onChange={setChosen} className="min-w-0 flex-1" />
      <Button
        onClick={() => {
          const [kind = "", item = ""] = value.split(" ");
          onChange(withItem(kit, kind === "device" ? "device" : "cable", item));
        }}
      >
        Put in
      </Button>
    </div>
  );
}

function Piece({ row, kit, onChange, onClose }: { row: Row; kit: Kit; onChange: (kit: Kit) => void; onClose: () => void }) {
  const [tags, setTags] = useState(row.tags.join(", "));
  const [firmware, setFirmware] = useState(row.firmware ?? "");
  const [licences, setLicences] = useState(row.licences.join(", "));
  const [note, setNote] = useState(row.note ?? "");
  const fields = [
    { label: "Asset tags", value: tags, set: setTags, hint: "set apart by commas" },
    ...(row.kind === "device"
      ? [
          { label: "Firmware", value: firmware, set: setFirmware, hint: "numbers with dots, such as 2.10" },
          { label: "Licences", value: licences, set: setLicences, hint: "set apart by commas" },
        ]
      : []),
    { label: "Note", value: note, set: setNote, hint: "" },
  ];
  return (
    <Dialog open onClose={onClose} title={row.name}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          onChange(
            withRow(kit, row, {
              tags: several(tags),
              firmware: firmware.trim() || null,
              licences: several(licences),
              note: note.trim() || null,
            }),
          );
          onClose();
        }}
      >
        {fields.map((field) => (
          <label key={field.label} className="block">
            <span className="font-semibold">{field.label}</span> <span className="text-sm text-soft">{field.hint}</span>
            <TextInput value={field.value} maxLength={200} onChange={(event) => field.set(event.target.value)} className="mt-1 w-full" />
          </label>
        ))}
        <div className="flex justify-between gap-2 pt-2">
          <Button
            onClick={() => {
              onChange(withoutRow(kit, row));
              onClose();
            }}
          >
            Take it off the list
          </Button>
          <Button weight="lead" type="submit">
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
