import { useId } from "react";
import { useQuery } from "@tanstack/react-query";

import type { Face } from "../../api/client";
import { plugsQuery } from "../queries";
import { around } from "./model";
import { Side, WhichSide, type Plugs } from "./side";

const BOX = { width: 190, height: 118 };
/** So wide is a letter of a marking, and so much room is taken by the ring around its port. */
const LETTER = 9;
const RING = 34;

type OneSide = Face["sides"][number];
type Tags = (port: string) => string | undefined;

/** All sides of a device on which there is something, those with ports first; what is in use is lit, with its flag. */
export function DeviceFace({ face, tags }: { face: Face; tags: Tags }) {
  const { data: plugs } = useQuery(plugsQuery);
  const sides = face.sides.toSorted((one, other) => Number(other.sockets.length > 0) - Number(one.sockets.length > 0));
  return (
    <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
      {sides.map((side) => (
        <OneOf key={side.side} side={side} plugs={plugs} tags={tags} />
      ))}
    </div>
  );
}

function OneOf({ side, plugs, tags }: { side: OneSide; plugs: Plugs | undefined; tags: Tags }) {
  const ports = side.sockets.map(({ id }) => id);
  const near = around(side, { x: 0, y: 0, ...BOX }, ports);
  const [wide, high] = [Math.min(BOX.width, near.width), Math.min(BOX.height, near.height)];
  const beside = Math.max(0, widest(side, tags) + RING - wide / 2);
  const box = { x: beside + 3, y: 3, width: wide, height: high };
  const at = { ...around(side, box, ports), box: { ...box, x: 0, width: wide + 2 * beside } };
  const clip = useId();
  const room = wide + 2 * beside + 6;
  return (
    <figure className="flex flex-col gap-1" aria-label={`${side.side} side`}>
      <figcaption className="flex items-center gap-2">
        <WhichSide side={side.side} /> {side.side}
        {side.in_a_row && <span className="text-soft">— in a row: places not known</span>}
      </figcaption>
      <svg
        width={room}
        height={high + 6}
        viewBox={`0 0 ${room} ${high + 6}`}
        className="max-w-full"
        role="img"
        aria-label={wordsOf(side, tags)}
      >
        <clipPath id={clip}>
          <rect x={0} y={0} width={room} height={high + 6} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          <Side side={side} at={at} plugs={plugs} how={(port) => (tags(port) ? "lit" : "named")} tags={tags} />
        </g>
      </svg>
    </figure>
  );
}

/** The room that the longest marking of a side takes, with its flag. */
const widest = (side: OneSide, tags: Tags) =>
  LETTER * Math.max(0, ...side.sockets.map(({ marking, id }) => marking.length + (tags(id) ? tags(id)!.length + 1 : 0)));

const wordsOf = (side: Face["sides"][number], tags: (port: string) => string | undefined) =>
  side.sockets.map(({ marking, id }) => (tags(id) ? `${marking}: ${tags(id)}` : marking)).join(", ") || "no ports";
