import { useState } from "react";

import { CablePlugs, deviceName, useDraft } from "../../../rig";
import { Button, Panel, TickBox } from "../../../ui";
import { atHand, type InHand as Cable } from "./model";
import type { Hands } from "./use-hands";

/** What is held: a cable and where its first plug is; or what there is to take in hand. */
export function InHand({ hands }: { hands: Hands }) {
  return hands.held ? <Holding hands={hands} /> : <ToTake hands={hands} />;
}

function Holding({ hands }: { hands: Hands }) {
  const { rig } = useDraft();
  const { held, hold } = hands;
  if (!held) return null;
  return (
    <Panel className="shrink-0" title={`In hand: ${held.cable.tag}`} actions={<Button onClick={() => hold(undefined)}>Put it down</Button>}>
      <p className="flex items-center gap-3">
        <CablePlugs cable={held.cable.cable} /> {held.cable.name}
      </p>
      <p className="mt-2 text-lg font-semibold" role="status">
        {held.first ? `One plug is in ${deviceName(rig, held.first.device)}. Tap the port for the other.` : "Tap a port."}
      </p>
      <label className="mt-2 flex min-h-11 items-center gap-3 text-sm">
        <TickBox checked={held.keepOneOut} onChange={(keepOneOut) => hold({ ...held, keepOneOut })} />
        Keep one plug out for now: what wakes with its feed stays dark
      </label>
    </Panel>
  );
}

function ToTake({ hands }: { hands: Hands }) {
  const [isOpen, open] = useState(false);
  if (!hands.bench) return null;
  const { lying, planned, others } = atHand(hands.bench);
  return (
    <Panel
      className="shrink-0"
      title="Cables"
      actions={
        <Button aria-expanded={isOpen} onClick={() => open(!isOpen)}>
          {isOpen ? "Fewer" : "All in the bag"}
        </Button>
      }
    >
      <ul className="flex max-h-72 flex-col overflow-auto" tabIndex={0} aria-label="Cables to take in hand">
        {lying.map((cable) => (
          <Line key={cable.tag} cable={cable} where="lies ready" onTake={() => hands.take(cable, true)} />
        ))}
        {planned.map((cable) => (
          <Line key={cable.tag} cable={cable} where="in the bag" onTake={() => hands.take(cable, false)} />
        ))}
        {isOpen &&
          others.map((cable) => (
            <Line key={cable.cable} cable={cable} where={`${cable.left} in the bag`} isUnflagged onTake={() => hands.take(cable, false)} />
          ))}
        {lying.length + planned.length === 0 && !isOpen && <li className="text-soft">All that the plan wants is plugged.</li>}
      </ul>
    </Panel>
  );
}

function Line({ cable, where, isUnflagged = false, onTake }: { cable: Cable; where: string; isUnflagged?: boolean; onTake: () => void }) {
  return (
    <li className="border-b border-edge last:border-0">
      <button type="button" onClick={onTake} className="flex min-h-12 w-full items-center gap-2 py-1 text-left leading-tight">
        <b className="w-10 shrink-0">{isUnflagged ? "" : cable.tag}</b>
        <span className="min-w-0 flex-1">
          {cable.name}
          <span className="flex flex-wrap items-center gap-x-3 text-sm text-soft">
            {where} <CablePlugs cable={cable.cable} />
          </span>
        </span>
      </button>
    </li>
  );
}
