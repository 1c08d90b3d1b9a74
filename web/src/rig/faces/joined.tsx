import { useId } from "react";
import { useQuery } from "@tanstack/react-query";

import { familyToken, useWidth } from "../../ui";
import { plugsQuery } from "../queries";
import { around, ringOf, spotOf, type Box, type Fitted, type Seen } from "./model";
import { Plug } from "./outline";
import { Body, Sockets, WhichSide, type How, type Plugs } from "./side";

const FIRST_WIDTH = 420;
/** Between the two devices: room for the lead and its flag. */
const BETWEEN = 30;
/** Below them: the same. */
const BELOW = 42;

/** Both ends of a join, side by side: the port lit, its look-alike crossed out, the lead between with its flag. */
export function Joined({
  ends,
  tag,
  family,
  isMounted,
}: {
  ends: readonly [Seen, Seen];
  tag?: string | null;
  family: string;
  isMounted: boolean;
}) {
  const { data: plugs } = useQuery(plugsQuery);
  const clip = useId();
  const [ref, width] = useWidth<SVGSVGElement>(FIRST_WIDTH);
  const box = (width - BETWEEN) / 2;
  const room = Math.min(170, Math.max(136, width * 0.3));
  const height = room + BELOW + 8;
  const boxes: Box[] = [0, width - box].map((x) => ({ x: x + 4, y: 4, width: box - 8, height: room }));
  const places = ends.map((end, number) => around(end.side, boxes[number]!, [end.port, ...end.crossed]));
  const [from, to] = ends.map((end, number) => below(end, places[number]!)) as [Spot, Spot];
  const colour = `var(--${familyToken(family)})`;
  return (
    <figure
      className="rounded-md border border-edge bg-ground p-2"
      aria-label={ends.map(({ name, socket }) => `${name}: ${socket.marking}, ${socket.place}`).join(" to ")}
    >
      <svg
        ref={ref}
        viewBox={`0 0 ${width} ${height}`}
        height={height}
        className="block w-full"
        role="img"
        aria-label="Both devices, drawn"
      >
        {boxes.map((one, number) => (
          <clipPath key={number} id={`${clip}-${number}`}>
            <rect x={one.x - 3} y={one.y - 3} width={one.width + 6} height={one.height + 6} />
          </clipPath>
        ))}
        {ends.map((end, number) => (
          <g key={number} clipPath={`url(#${clip}-${number})`}>
            <Body side={end.side} at={places[number]!} />
          </g>
        ))}
        {isMounted ? (
          <Mounts at={{ x: width / 2, y: height - 20 }} />
        ) : (
          <Lead from={from} to={to} width={width} height={height} colour={colour} tag={tag} />
        )}
        {ends.map((end, number) => (
          <g key={number} clipPath={`url(#${clip}-${number})`}>
            <Sockets side={end.side} at={places[number]!} plugs={plugs} how={(port) => howOf(end, port)} />
          </g>
        ))}
      </svg>
      <div className="mt-2 grid grid-cols-2 gap-x-4">
        {ends.map((end, number) => (
          <EndWords key={number} end={end} plugs={plugs} />
        ))}
      </div>
      {ends.some((end) => end.side.in_a_row) && (
        <p className="text-soft">Where its ports are this profile does not say: they are drawn in a row.</p>
      )}
    </figure>
  );
}

/** From one port down, along below both devices, and up to the other; its flag in the middle. */
function Lead({
  from,
  to,
  width,
  height,
  colour,
  tag,
}: {
  from: Spot;
  to: Spot;
  width: number;
  height: number;
  colour: string;
  tag?: string | null;
}) {
  const path = leadPath(from, to, width, height);
  return (
    <g fill="none">
      <path d={path} className="stroke-ground" strokeWidth={9} />
      <path d={path} stroke={colour} strokeWidth={5} strokeLinecap="round" />
      {tag && <FlagOn tag={tag} colour={colour} x={width / 2} y={height - 17} />}
    </g>
  );
}

type Spot = { x: number; y: number };

/** Where a lead leaves the ring around its port. */
function below(end: Seen, at: Fitted): Spot {
  const { x, y } = spotOf(end.socket, at);
  return { x, y: y + ringOf(end.socket, end.side, at.scale) };
}

const howOf = (end: Seen, port: string): How => (port === end.port ? "lit" : end.crossed.includes(port) ? "crossed" : "plain");

/** From one port down, along below both devices, and up to the other. */
const leadPath = (from: Spot, to: Spot, width: number, height: number) => {
  const low = height - 17;
  return `M${from.x} ${from.y} C${from.x + (width / 2 - from.x) / 3} ${low} ${from.x + (width / 2 - from.x) / 2} ${low} ${width / 2} ${low} S${to.x - (to.x - width / 2) / 3} ${low} ${to.x} ${to.y}`;
};

function FlagOn({ tag, colour, x, y }: { tag: string; colour: string; x: number; y: number }) {
  return (
    <g>
      <rect x={x - 27} y={y - 15} width={54} height={30} rx={3} fill={colour} />
      <text x={x} y={y + 7} textAnchor="middle" fontSize={21} className="fill-ground font-bold">
        {tag}
      </text>
    </g>
  );
}

/** Two that go straight into each other. */
function Mounts({ at }: { at: Spot }) {
  return (
    <path
      d={`M${at.x - 22} ${at.y} H${at.x + 22} M${at.x - 22} ${at.y} l9 -8 M${at.x - 22} ${at.y} l9 8 M${at.x + 22} ${at.y} l-9 -8 M${at.x + 22} ${at.y} l-9 8`}
      className="stroke-mount"
      strokeWidth={5}
      strokeLinecap="round"
      fill="none"
    />
  );
}

function EndWords({ end, plugs }: { end: Seen; plugs: Plugs | undefined }) {
  const outline = plugs?.outlines[end.socket.connector] ?? plugs?.unknown;
  const isInHand = outline && Math.max(outline.width_mm, outline.height_mm) < IN_HAND_MM;
  return (
    <figcaption className="flex min-w-0 flex-col gap-1 leading-tight">
      <b className="truncate text-lg">{end.name}</b>
      <span className="flex items-center gap-2">
        <WhichSide side={end.side.side} />
        <span>
          <b>“{end.socket.marking}”</b> {end.socket.place}
        </span>
      </span>
      {end.crossed.map((port) => (
        <Crossed key={port} end={end} port={port} />
      ))}
      {isInHand && (
        <span className="flex items-center gap-2">
          <Plug outline={outline} name={end.socket.plug} turned={end.socket.turned} />
          {end.plug || end.socket.plug}
        </span>
      )}
    </figcaption>
  );
}

/** The look-alike beside the port that is meant, and what it does instead. */
function Crossed({ end, port }: { end: Seen; port: string }) {
  const socket = end.side.sockets.find(({ id }) => id === port);
  if (!socket) return null;
  const does = socket.note?.split(". ")[0]?.replace(/\.$/, "");
  return (
    <span className="border-l-4 border-bad pl-2">
      <b className="text-bad">✕ not “{socket.marking}”</b>
      {does && `: ${does[0]?.toLowerCase()}${does.slice(1)}`}
    </span>
  );
}

/** What is larger is no plug that one holds between two fingers. */
const IN_HAND_MM = 25;
