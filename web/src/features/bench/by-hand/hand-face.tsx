import { memo, useId } from "react";
import { useQuery } from "@tanstack/react-query";

import type { DeviceView, Face, FaceSide, Socket } from "../../../api/client";
import { around, plugsQuery, Side, spotOf, WhichSide, type Fitted, type Plugs } from "../../../rig";
import { FILLS } from "./lamp";

const BOX = { width: 210, height: 118 };
/** A thumb with a glove on. */
const REACH = 22;
const LEAST_REACH = 10;
/** Room on either side for markings. */
const BESIDE = 26;

type Tap = (socket: Socket) => void;

type Looks = { joined: DeviceView["joined"]; lamps: DeviceView["lamps"]; name: string };

/** A device with its sides as they are: ports to tap, lamps as they shine, what is plugged under its flag. */
export const HandFace = memo(function HandFace({
  face,
  withPorts,
  lit,
  onPort,
  ...looks
}: Looks & { face: Face; withPorts: boolean; lit: string | undefined; onPort: Tap }) {
  const { data: plugs } = useQuery(plugsQuery);
  return (
    <div className="mt-2 flex flex-wrap items-start gap-x-4 gap-y-2">
      {face.sides
        .filter((side) => side.sockets.length > 0 === withPorts)
        .map((side) => (
          <OneSide key={side.side} side={side} looks={looks} lit={lit} plugs={plugs} onPort={onPort} />
        ))}
    </div>
  );
});

function OneSide({
  side,
  looks,
  lit,
  plugs,
  onPort,
}: {
  side: FaceSide;
  looks: Looks;
  lit: string | undefined;
  plugs: Plugs | undefined;
  onPort: Tap;
}) {
  const clip = useId();
  // A side that has no port is there to be known by: smaller.
  const box = side.sockets.length > 0 ? BOX : { width: BOX.width / 1.6, height: BOX.height / 1.6 };
  const ports = side.sockets.map(({ id }) => id);
  // Where two ports would lie on each other, only the part of the side around them is drawn, larger.
  const whole = around(side, { x: 0, y: 0, ...box }, ports);
  const [wide, high] = [Math.max(Math.min(box.width, whole.width), 60), Math.max(Math.min(box.height, whole.height), 44)];
  const beside = side.sockets.length > 0 ? BESIDE : 8;
  const room = wide + 2 * beside;
  const fit = around(side, { x: beside, y: 4, width: wide, height: high }, ports);
  const at: Fitted = { ...fit, box: { x: 0, y: 0, width: room, height: high + 8 } };
  const tags = new Map<string, string>();
  for (const { port, tag } of looks.joined ?? []) tags.set(port, tags.has(port) ? `${tags.get(port)} ${tag}` : tag);
  return (
    <figure className="flex flex-col gap-1" aria-label={`${side.side} side of ${looks.name}`}>
      <figcaption className="flex items-center gap-2 text-sm">
        <WhichSide side={side.side} /> {side.side}
        {side.in_a_row && <span className="text-soft">— in a row: places not known</span>}
      </figcaption>
      <svg width={room} height={high + 8} viewBox={`0 0 ${room} ${high + 8}`} className="max-w-full">
        <clipPath id={clip}>
          <rect width={room} height={high + 8} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          <Side
            side={side}
            at={at}
            plugs={plugs}
            how={(port) => (port === lit || tags.has(port) ? "lit" : "named")}
            tags={(port) => tags.get(port)}
          />
          <Lamps side={side} lamps={looks.lamps} at={at} />
          {side.sockets.map((socket) => (
            <Reach key={socket.id} socket={socket} side={side} at={at} tag={tags.get(socket.id)} onTap={() => onPort(socket)} />
          ))}
        </g>
      </svg>
    </figure>
  );
}

/** The lamps of a side as they shine now. */
function Lamps({ side, lamps, at }: { side: FaceSide; lamps: Looks["lamps"]; at: Fitted }) {
  return side.marks.map((mark) => {
    const lamp = lamps.find(({ id }) => id === mark.id);
    if (!lamp) return null;
    const { x, y } = spotOf(mark, at);
    return (
      <circle
        key={mark.id}
        cx={x}
        cy={y}
        r={Math.max(6, (mark.width_mm * at.scale) / 2)}
        className={`${FILLS[lamp.state] ?? FILLS.asleep} ${lamp.state === "booting" ? "animate-pulse" : ""}`}
        strokeWidth={1.5}
      >
        <title>{`${lamp.name}: ${lamp.looks}`}</title>
      </circle>
    );
  });
}

/** Where a thumb hits a port. */
function Reach({
  socket,
  side,
  at,
  tag,
  onTap,
}: {
  socket: Socket;
  side: FaceSide;
  at: Fitted;
  tag: string | undefined;
  onTap: () => void;
}) {
  const { x, y } = spotOf(socket, at);
  const others = side.sockets.filter(({ id }) => id !== socket.id).map((one) => spotOf(one, at));
  // Two ports that lie close share the room between them: neither is hit for the other.
  const nearest = Math.min(...others.map((one) => Math.hypot(one.x - x, one.y - y)), Infinity);
  return (
    <circle
      cx={x}
      cy={y}
      r={Math.max(LEAST_REACH, Math.min(REACH, nearest / 2))}
      role="button"
      tabIndex={0}
      aria-label={`${socket.marking}, ${socket.place}: ${tag ? `in it ${tag}` : "free"}`}
      className="cursor-pointer fill-transparent outline-none focus-visible:stroke-lead"
      strokeWidth={3}
      onClick={onTap}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onTap();
      }}
    />
  );
}
