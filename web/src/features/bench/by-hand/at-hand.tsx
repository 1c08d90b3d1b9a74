import { memo, useCallback, useEffect, useRef, useState } from "react";

import type { DeviceView, Socket } from "../../../api/client";
import { faceOf, useAnswer } from "../../../rig";
import { Button, Panel, useWide } from "../../../ui";
import { HandFace } from "./hand-face";
import { GROUP_NAMES, grouped, short, type HandOffer } from "./model";
import { Picture } from "./picture";
import { PortCard } from "./port-card";
import type { Hands } from "./use-hands";

/** The device at hand: as it looks, its ports to tap, and all that a hand can try at it. */
export function AtHand({ hands }: { hands: Hands }) {
  const { answer } = useAnswer();
  const look = hands.bench?.devices.find(({ device }) => device === hands.device);
  const [port, setPort] = useState<Socket>();
  const here = useRef<HTMLDivElement>(null);
  const isWide = useWide();
  // Below all the devices on a phone: whoever tapped one wants to see it.
  useEffect(() => {
    if (!isWide && here.current) here.current.scrollIntoView({ block: "start" });
  }, [isWide]);
  const face = look && faceOf(answer, look.device);
  const isHere = face?.sides.some((side) => side.sockets.some((one) => one.id === port?.id));
  const tap = (socket: Socket) => {
    setPort(socket);
    if (hands.held && look) hands.put({ device: look.device, port: socket.id, connector: socket.connector });
  };
  const onPort = useLatest(tap);
  const held = hands.held?.first;
  if (!look)
    return (
      <Panel title="Which device?">
        <p className="text-soft">Tap one: its ports, lamps, switches and menus come here.</p>
      </Panel>
    );
  const lit = held?.device === look.device ? held.port : undefined;
  return (
    <div ref={here}>
      <Panel title={look.name} actions={<HowItIs look={look} />}>
        {look.asks && <p className="mb-3 rounded border-l-8 border-warn bg-raised p-2 font-semibold">{look.asks}</p>}
        <div className="flex flex-wrap gap-x-5 gap-y-2">
          {look.screens.map((screen) => (
            <Picture key={screen.id} screen={screen} clockS={hands.bench?.clock_s ?? 0} />
          ))}
          <Readings look={look} />
        </div>
        {face && <HandFace face={face} withPorts joined={look.joined} lamps={look.lamps} name={look.name} lit={lit} onPort={onPort} />}
        {port && isHere && !hands.held && <PortCard hands={hands} look={look} socket={port} onClose={() => setPort(undefined)} />}
        <Tries offers={hands.bench?.offers} name={look.name} go={hands.go} />
        {!isWide && (
          <Button className="mt-3 w-full" onClick={() => hands.lookAt(undefined)}>
            All devices
          </Button>
        )}
        {face && (
          <HandFace face={face} withPorts={false} joined={look.joined} lamps={look.lamps} name={look.name} lit={lit} onPort={onPort} />
        )}
      </Panel>
    </div>
  );
}

/** The same function from one drawing to the next, which does what the latest one does. */
function useLatest<A>(does: (what: A) => void): (what: A) => void {
  const latest = useRef(does);
  useEffect(() => {
    latest.current = does;
  });
  return useCallback((what: A) => latest.current(what), []);
}

function HowItIs({ look }: { look: DeviceView }) {
  const said = [look.in_case ? "in its case" : look.state, look.is_fixed ? "fixed" : "", look.mode ? `${look.mode} mode` : ""];
  return (
    <span className="text-soft">
      {look.rolling && <b className="text-roll">● rolling · </b>}
      {said.filter(Boolean).join(" · ")}
    </span>
  );
}

/** Lamps in words, the battery, numbers that follow a wheel. */
function Readings({ look }: { look: DeviceView }) {
  return (
    <ul className="flex flex-col text-sm leading-snug">
      {look.lamps.map((lamp) => (
        <li key={lamp.id}>
          {lamp.name}: <b>{lamp.looks}</b>
        </li>
      ))}
      {look.charge != null && (
        <li className="flex items-center gap-2">
          battery
          <Gauge label="battery" share={look.charge} />
          <b>{Math.round(100 * look.charge)} %</b>
        </li>
      )}
      {(look.numbers ?? []).map((number) => (
        <li key={number.function} className="flex items-center gap-2">
          {number.name}
          <Gauge label={number.name} share={number.tenths / 10} />
          <b>{number.tenths} of 10</b>
        </li>
      ))}
    </ul>
  );
}

function Gauge({ label, share }: { label: string; share: number }) {
  return (
    <span
      role="meter"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(100 * share)}
      className="inline-block h-3 w-20 overflow-hidden rounded-sm border border-soft"
    >
      <span className="block h-full bg-soft" style={{ width: `${100 * share}%` }} />
    </span>
  );
}

type Go = Hands["go"];

/** All that can be tried but at ports, in groups. */
const Tries = memo(function Tries({ offers, name, go }: { offers: HandOffer[] | undefined; name: string; go: Go }) {
  return (
    <div className="mt-2 flex flex-wrap gap-x-5 gap-y-2">
      {grouped(offers ?? []).map(([group, those]) => (
        <section key={group} aria-label={GROUP_NAMES[group]}>
          <h3 className="mb-1 text-sm font-semibold text-soft">{GROUP_NAMES[group]}</h3>
          <div className="flex flex-wrap gap-1.5">
            {those.map((offer) => (
              <Button key={offer.says} className="text-left text-sm" onClick={() => go({ kind: "act", act: offer.act })}>
                {short(offer.says, name)}
              </Button>
            ))}
          </div>
        </section>
      ))}
    </div>
  );
});
