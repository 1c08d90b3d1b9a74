import type { FaceSide, Outline, Schemas, Socket } from "../../api/client";
import { doorsOf, labelAt, ringOf, socketScale, spotOf, TYPE, type Fitted } from "./model";
import { Shapes } from "./outline";

export type Plugs = Schemas["Plugs"];
export type How = "lit" | "crossed" | "named" | "plain";

type OfSide = {
  side: FaceSide;
  at: Fitted;
  plugs: Plugs | undefined;
  how: (port: string) => How;
  /** Tape flags of what is in a port. */
  tags?: (port: string) => string | undefined;
};

/** One side of a device, to scale: its edge, doors, marks and sockets. */
export function Side(props: OfSide) {
  return (
    <g>
      <Body side={props.side} at={props.at} />
      <Sockets {...props} />
    </g>
  );
}

/** What the sockets sit in: its edge, what is touched and looked at there, and the doors. */
export function Body({ side, at }: Pick<OfSide, "side" | "at">) {
  const look = "fill-raised stroke-ink";
  return (
    <g>
      {side.is_round ? (
        <ellipse
          cx={at.x + at.width / 2}
          cy={at.y + at.height / 2}
          rx={at.width / 2}
          ry={at.height / 2}
          className={look}
          strokeWidth={2.5}
        />
      ) : (
        <rect x={at.x} y={at.y} width={at.width} height={at.height} rx={Math.min(9, at.height / 5)} className={look} strokeWidth={2.5} />
      )}
      {side.marks.map((mark) => (
        <MarkShape key={mark.id} mark={mark} at={at} />
      ))}
      {doorsOf(side, at).map(({ name, ...box }) => (
        <rect key={name} {...box} rx={5} fill="none" className="stroke-soft" strokeWidth={1.6} strokeDasharray="5 4" />
      ))}
    </g>
  );
}

/** The sockets of a side, with rings, crosses and markings on top of whatever hangs there. */
export function Sockets({ side, at, plugs, how, tags }: OfSide) {
  return (
    <g>
      {side.sockets.map((socket) => (
        <SocketShape
          key={socket.id}
          socket={socket}
          side={side}
          at={at}
          outline={plugs?.outlines[socket.connector] ?? plugs?.unknown}
          how={how(socket.id)}
        />
      ))}
      {side.sockets.map((socket) => (
        <Around key={socket.id} socket={socket} side={side} at={at} how={how(socket.id)} tag={tags?.(socket.id)} />
      ))}
    </g>
  );
}

const LINES: Record<string, number> = { screen: 2, touch: 2, scale: 1.5 };

/** A lamp, a button, a screen: thin, so that it helps to find the side, and is no port. */
function MarkShape({ mark, at }: { mark: FaceSide["marks"][number]; at: Fitted }) {
  const { x, y } = spotOf(mark, at);
  const [width, height] = [Math.max(5, mark.width_mm * at.scale), Math.max(5, mark.height_mm * at.scale)];
  const isRound = ["lamp", "button", "stick", "knob"].includes(mark.kind) && Math.abs(width - height) < 1;
  return (
    <g className="stroke-soft" strokeWidth={LINES[mark.kind] ?? 1.5} fill="none">
      <title>{mark.name}</title>
      {isRound ? (
        <circle cx={x} cy={y} r={width / 2} className={mark.kind === "lamp" ? "fill-soft" : ""} />
      ) : (
        <rect x={x - width / 2} y={y - height / 2} width={width} height={height} rx={mark.kind === "switch" ? height / 2 : 3} />
      )}
      {mark.kind === "stick" && <circle cx={x} cy={y} r={width / 5} className="fill-soft" />}
      {mark.kind === "wheel" &&
        [0.25, 0.5, 0.75].map((part) => (
          <line key={part} x1={x - width / 2 + width * part} x2={x - width / 2 + width * part} y1={y - height / 2} y2={y + height / 2} />
        ))}
    </g>
  );
}

function SocketShape({
  socket,
  side,
  at,
  outline,
  how,
}: {
  socket: Socket;
  side: FaceSide;
  at: Fitted;
  outline: Outline | undefined;
  how: How;
}) {
  const { x, y } = spotOf(socket, at);
  const scale = socketScale(socket, side, at.scale);
  const [width, height] = [socket.width_mm * at.scale, socket.height_mm * at.scale];
  if (socket.is_band)
    return (
      <g className="stroke-ink" strokeWidth={1.6}>
        <rect x={x - width / 2} y={y - height / 2} width={width} height={height} className={how === "lit" ? "fill-lead" : "fill-panel"} />
        {Array.from({ length: 15 }, (_, tooth) => (
          <line
            key={tooth}
            x1={x - width / 2 + (width * (tooth + 1)) / 16}
            x2={x - width / 2 + (width * (tooth + 1)) / 16}
            y1={y - height / 2}
            y2={y + height / 2}
          />
        ))}
      </g>
    );
  if (socket.around_mm)
    return (
      <circle
        cx={x}
        cy={y}
        r={(width + socket.around_mm * at.scale) / 4}
        fill="none"
        className="stroke-soft"
        strokeWidth={(width - socket.around_mm * at.scale) / 4}
        strokeDasharray="4 3"
      />
    );
  return <g transform={`translate(${x} ${y}) rotate(${socket.turned}) scale(${scale})`}>{outline && <Shapes shapes={outline.shapes} />}</g>;
}

/** The ring around a port that is meant, the cross over one that is not, and the marking as it is printed beside it. */
function Around({ socket, side, at, how, tag }: { socket: Socket; side: FaceSide; at: Fitted; how: How; tag?: string }) {
  if (how === "plain") return null;
  const { x, y } = spotOf(socket, at);
  const ring = ringOf(socket, side, at.scale);
  const label = `${socket.marking}${tag ? ` ${tag}` : ""}`;
  const place = labelAt(label, { x, y }, how === "named" ? ring / 2 : ring, at.box, how === "crossed");
  return (
    <g>
      {how === "lit" && <circle cx={x} cy={y} r={ring} fill="none" className="stroke-lead" strokeWidth={5} />}
      {how === "lit" && socket.points !== "out" && <Leaves x={x} y={y} ring={ring} points={socket.points ?? "out"} />}
      {how === "crossed" && (
        <path
          d={`M${x - ring} ${y - ring} L${x + ring} ${y + ring} M${x - ring} ${y + ring} L${x + ring} ${y - ring}`}
          className="stroke-bad"
          strokeWidth={4}
          strokeLinecap="round"
        />
      )}
      <text
        x={place.x}
        y={place.y}
        textAnchor={place.anchor}
        fontSize={TYPE}
        paintOrder="stroke"
        className={`stroke-raised ${how === "crossed" ? "fill-bad" : "fill-ink"} ${how === "lit" ? "font-bold" : ""}`}
        strokeWidth={4}
      >
        {label}
      </text>
    </g>
  );
}

const TURNS = { out: 0, right: 0, down: 90, left: 180, up: 270 };

/** Which way a lead leaves a socket that lies along its side: an arrow out of the ring. */
function Leaves({ x, y, ring, points }: { x: number; y: number; ring: number; points: keyof typeof TURNS }) {
  const [from, to] = [ring + 3, ring + 19];
  return (
    <path
      d={`M${from} 0 H${to} M${to} 0 l-7 -6 M${to} 0 l-7 6`}
      transform={`translate(${x} ${y}) rotate(${TURNS[points]})`}
      className="stroke-lead"
      strokeWidth={4}
      strokeLinecap="round"
      fill="none"
    />
  );
}

/** Six squares, a device folded flat: the side that is meant is filled. */
export function WhichSide({ side }: { side: FaceSide["side"] }) {
  const places = { top: [1, 0], left: [0, 1], front: [1, 1], right: [2, 1], back: [3, 1], bottom: [1, 2] } as const;
  return (
    <svg width={44} height={33} viewBox="-0.5 -0.5 45 34" aria-hidden className="shrink-0">
      {Object.entries(places).map(([name, [column, row]]) => (
        <rect
          key={name}
          x={column * 11 + 0.5}
          y={row * 11 + 0.5}
          width={10}
          height={10}
          className={name === side ? "fill-lead stroke-ink" : "fill-panel stroke-soft"}
          strokeWidth={1}
        />
      ))}
    </svg>
  );
}
