import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

import type { Face, FaceSide, Profile } from "../../../api/client";
import { fitted, Side, type Plugs } from "../../../rig";
import { useWidth } from "../../../ui";
import type { Side as SideName } from "../model";
import { markKey, movedBy, rounded, sideOf, withMark, withPlace, type Spots } from "../places";

const FIRST_WIDTH = 160;
const HEIGHT = 130;
/** So far a finger goes before it drags: less is a tap. */
const DRAGS = 5;
/** One press of an arrow, as a part of the side. */
const NUDGE = 0.02;
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-NUDGE, 0],
  ArrowRight: [NUDGE, 0],
  ArrowUp: [0, -NUDGE],
  ArrowDown: [0, NUDGE],
};

type Props = {
  draft: Profile;
  face: Face | null | undefined;
  side: SideName;
  plugs: Plugs | undefined;
  onChange: (draft: Profile) => void;
  onOpen: (port: string) => void;
  onOpenMark: (mark: string) => void;
};

/** One side with its ports, lamps and buttons: each a handle that is dragged, nudged with the arrows, or tapped. */
export function SidePlaces({ draft, face, side, plugs, onChange, onOpen, onOpenMark }: Props) {
  const [ref, width] = useWidth<SVGSVGElement>(FIRST_WIDTH);
  const [dragged, setDragged] = useState<Spots>({});
  const drawn = sideOf(draft, face, side, dragged);
  const at = fitted(drawn, { x: 3, y: 3, width: width - 6, height: HEIGHT - 6 });
  const mayMove = Boolean(draft.size_mm);
  const handled = [
    ...drawn.marks.map((mark) => ({
      key: markKey(mark.id),
      label: mark.name,
      spot: mark,
      put: (spot: [number, number]) => onChange(withMark(draft, mark.id, { at: rounded(spot) })),
      open: () => onOpenMark(mark.id),
    })),
    ...drawn.sockets.map((socket) => ({
      key: socket.id,
      label: `${socket.marking} ${socket.plug}`,
      spot: socket,
      put: (spot: [number, number]) => onChange(withPlace(draft, drawn, socket.id, spot)),
      open: () => onOpen(socket.id),
    })),
  ];
  return (
    <svg
      ref={ref}
      height={HEIGHT}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="block w-full touch-none"
      role="group"
      aria-label={`${side} side, drawn`}
    >
      <Side side={drawn} at={at} plugs={plugs} how={() => "named"} />
      {handled.map(({ key, label, spot, put, open }) => (
        <Handle
          key={key}
          label={label}
          spot={spot}
          side={drawn}
          at={at}
          mayMove={mayMove}
          onMove={(to) => setDragged((old) => ({ ...old, [key]: to }))}
          onPut={(to) => {
            setDragged((old) => ({ ...old, [key]: to }));
            put(to);
          }}
          onOpen={open}
        />
      ))}
    </svg>
  );
}

type Handled = {
  label: string;
  spot: { x_mm: number; y_mm: number };
  side: FaceSide;
  at: ReturnType<typeof fitted>;
  mayMove: boolean;
  onMove: (spot: [number, number]) => void;
  onPut: (spot: [number, number]) => void;
  onOpen: () => void;
};

function Handle({ label, spot, side, at, mayMove, onMove, onPut, onOpen }: Handled) {
  const from = useRef<{ x: number; y: number; isDragging: boolean }>(undefined);
  const start = useRef<[number, number]>([0, 0]);
  const spotNow = (event: PointerEvent): [number, number] => {
    const [x, y] = start.current;
    const across = (event.clientX - from.current!.x) / at.width;
    const down = (event.clientY - from.current!.y) / at.height;
    return [Math.min(1, Math.max(0, x + across)), Math.min(1, Math.max(0, y + down))];
  };
  const down = (event: PointerEvent<SVGGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = { x: event.clientX, y: event.clientY, isDragging: false };
    start.current = [spot.x_mm / side.width_mm, spot.y_mm / side.height_mm];
  };
  const move = (event: PointerEvent) => {
    const began = from.current;
    if (!began || !mayMove) return;
    began.isDragging ||= Math.hypot(event.clientX - began.x, event.clientY - began.y) > DRAGS;
    if (began.isDragging) onMove(spotNow(event));
  };
  const up = (event: PointerEvent) => {
    const began = from.current;
    if (!began) return;
    if (began.isDragging) onPut(spotNow(event));
    else onOpen();
    from.current = undefined;
  };
  const key = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (arrow && mayMove) onPut(movedBy(side, spot, ...arrow));
    else if (event.key === "Enter" || event.key === " ") onOpen();
    else return;
    event.preventDefault();
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={label}
      className="cursor-grab"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onKeyDown={key}
    >
      <circle cx={at.x + spot.x_mm * at.scale} cy={at.y + spot.y_mm * at.scale} r={22} fill="transparent" />
    </g>
  );
}
