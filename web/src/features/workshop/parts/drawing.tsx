import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Catalogue, Face, Profile } from "../../../api/client";
import { plugsQuery } from "../../../rig";
import { Button, NumberField, Panel } from "../../../ui";
import { SIDES, withNewPort } from "../model";
import { MarkDialog, Unplaced } from "./marks";
import { PortDialog } from "./port";
import { SidePlaces } from "./side-places";

/** The device folded flat: ports, lamps and buttons are dragged to where they are, tapped to be changed, and put on the side where they belong. */
export function Drawing({
  draft,
  face,
  catalogue,
  onChange,
}: {
  draft: Profile;
  /** As it was drawn last. */
  face: Face | null | undefined;
  catalogue: Catalogue | undefined;
  onChange: (draft: Profile) => void;
}) {
  const { data: plugs } = useQuery(plugsQuery);
  const [open, setOpen] = useState<string>();
  const [mark, setMark] = useState<string>();
  const shown = (draft.ports ?? []).find((port) => port.id === open);
  return (
    <Panel title="Its ports and lamps, where they are">
      <Size draft={draft} onChange={onChange} />
      <div className="mt-3 grid grid-cols-2 gap-2 sm:grid-cols-3">
        {SIDES.map((side) => (
          <section key={side} aria-label={`${side} side`} className="flex min-w-0 flex-col rounded-md border border-edge bg-ground p-1">
            <header className="flex items-center justify-between gap-1">
              <h3 className="pl-1 font-semibold text-soft">{side}</h3>
              <Button
                weight="quiet"
                className="px-2"
                aria-label={`Put a port on the ${side}`}
                onClick={() => onChange(withNewPort(draft, side))}
              >
                +
              </Button>
            </header>
            <SidePlaces draft={draft} face={face} side={side} plugs={plugs} onChange={onChange} onOpen={setOpen} onOpenMark={setMark} />
          </section>
        ))}
      </div>
      <Unplaced draft={draft} onChange={onChange} />
      {(draft.radios ?? []).length > 0 && (
        <p className="mt-2 text-soft">Radios: {(draft.radios ?? []).map((radio) => radio.name).join(", ")}.</p>
      )}
      {mark !== undefined && <MarkDialog draft={draft} mark={mark} onChange={onChange} onClose={() => setMark(undefined)} />}
      {shown && <PortDialog port={shown} draft={draft} catalogue={catalogue} onChange={onChange} onClose={() => setOpen(undefined)} />}
    </Panel>
  );
}

const MEASURES = ["Width", "Height", "Depth"] as const;

/** How large it is, the front towards you: only then a port has a place. */
function Size({ draft, onChange }: { draft: Profile; onChange: (draft: Profile) => void }) {
  const size = draft.size_mm;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {MEASURES.map((name, number) => (
        <span key={name} className="flex items-center gap-1">
          {name.toLowerCase()}
          <NumberField
            label={name}
            value={size?.[number]}
            unit="mm"
            min={1}
            max={2000}
            step={1}
            placeholder="?"
            onChange={(value) => {
              if (value === null) return;
              const next: [number, number, number] = size ? [...size] : [80, 60, 40];
              next[number] = value;
              onChange({ ...draft, size_mm: next });
            }}
          />
        </span>
      ))}
      <p className="text-soft">
        {size
          ? "Drag a port, a lamp or a button to its place; tap it to change it."
          : "Give its size, and ports can be put where they are."}
      </p>
    </div>
  );
}
