import { useState } from "react";

import type { Catalogue, Profile } from "../../../api/client";
import { Button, Panel } from "../../../ui";
import { SIDES, withNewPort, type Port, type Side } from "../model";
import { PortDialog } from "./port";

const PLACES: Record<Side, string> = {
  top: "col-span-4 col-start-1 row-start-1",
  left: "col-start-1 row-start-2",
  front: "col-start-2 row-start-2",
  back: "col-start-3 row-start-2",
  right: "col-start-4 row-start-2",
  bottom: "col-span-4 col-start-1 row-start-3",
};

/** The device folded flat, a face for each side: ports stand where they are, and are put where they belong. */
export function Drawing({
  draft,
  catalogue,
  onChange,
}: {
  draft: Profile;
  catalogue: Catalogue | undefined;
  onChange: (draft: Profile) => void;
}) {
  const [open, setOpen] = useState<string>();
  const ports = draft.ports ?? [];
  const shown = ports.find((port) => port.id === open);
  return (
    <Panel title="Its ports, side by side">
      <div className="grid grid-cols-4 gap-1 rounded-lg border-2 border-ink p-1">
        {SIDES.map((side) => (
          <section
            key={side}
            aria-label={`${side} side`}
            className={`flex min-h-24 flex-col gap-2 rounded border border-edge bg-ground p-2 ${PLACES[side]}`}
          >
            <header className="flex items-center justify-between gap-1">
              <h3 className="text-sm font-semibold text-soft">{side}</h3>
              <Button
                weight="quiet"
                className="px-2"
                aria-label={`Put a port on the ${side}`}
                onClick={() => onChange(withNewPort(draft, side))}
              >
                +
              </Button>
            </header>
            <div className="flex flex-wrap gap-2">
              {ports
                .filter((port) => port.side === side)
                .map((port) => (
                  <PortTile
                    key={port.id}
                    port={port}
                    connector={catalogue?.connectors[port.connector] ?? port.connector}
                    onOpen={() => setOpen(port.id)}
                  />
                ))}
            </div>
          </section>
        ))}
      </div>
      {(draft.radios ?? []).length > 0 && (
        <p className="mt-2 text-soft">Radios: {(draft.radios ?? []).map((radio) => radio.name).join(", ")}.</p>
      )}
      {shown && <PortDialog port={shown} draft={draft} catalogue={catalogue} onChange={onChange} onClose={() => setOpen(undefined)} />}
    </Panel>
  );
}

function PortTile({ port, connector, onOpen }: { port: Port; connector: string; onOpen: () => void }) {
  return (
    <button type="button" onClick={onOpen} className="min-h-12 rounded-md border-2 border-lead bg-raised px-2 py-1 text-left leading-tight">
      <b className="block">{port.marking}</b>
      <span className="text-sm text-soft">{connector}</span>
    </button>
  );
}
