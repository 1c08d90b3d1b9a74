import type { Face, FaceSide, Profile } from "../../api/client";
import { withPort, type Side } from "./model";

export type Spot = [number, number];
export type Spots = Record<string, Spot>;

const clamped = (part: number) => Math.round(Math.min(1, Math.max(0, part)) * 100) / 100;

/** How large a side of a device is, as one looks at it: of a size that nobody gave, a small box. */
export function sizeOf(draft: Profile, side: Side): { width_mm: number; height_mm: number } {
  const [width, height, depth] = draft.size_mm ?? [80, 60, 40];
  if (side === "front" || side === "back") return { width_mm: width, height_mm: height };
  return side === "left" || side === "right" ? { width_mm: depth, height_mm: height } : { width_mm: width, height_mm: depth };
}

type Seen = NonNullable<Profile["surfaces"]>[number] | NonNullable<Profile["indicators"]>[number];

/** What is touched and looked at on a device: buttons, wheels, screens, lamps. */
export const marksOf = (draft: Profile): Seen[] => [...(draft.surfaces ?? []), ...(draft.indicators ?? [])];

/** What is dragged by this name is a mark, not a port. */
export const markKey = (id: string) => `mark ${id}`;

/** A mark with a part of its place changed; null takes it off the drawing. */
export function withMark(draft: Profile, id: string, change: { side?: Side; at?: Spot } | null): Profile {
  const moved = <T extends Seen>(one: T): T =>
    one.id !== id
      ? one
      : { ...one, side: change ? (change.side ?? one.side) : null, at: change ? (change.at ?? one.at ?? [0.5, 0.5]) : null };
  return { ...draft, surfaces: draft.surfaces?.map(moved), indicators: draft.indicators?.map(moved) };
}

/** A side as it is drawn: from the face, or bare where there is nothing on it yet; with what is being dragged where it is. */
export function sideOf(draft: Profile, face: Face | null | undefined, side: Side, dragged: Spots): FaceSide {
  const known = face?.sides.find((one) => one.side === side);
  const bare = { side, ...sizeOf(draft, side), is_round: false, in_a_row: false, sockets: [], marks: [] };
  const drawn = known ?? bare;
  return {
    ...drawn,
    sockets: drawn.sockets.map((socket) => {
      const spot = dragged[socket.id];
      return spot ? { ...socket, x_mm: spot[0] * drawn.width_mm, y_mm: spot[1] * drawn.height_mm } : socket;
    }),
    marks: drawn.marks.map((mark) => {
      const spot = dragged[markKey(mark.id)];
      return spot ? { ...mark, x_mm: spot[0] * drawn.width_mm, y_mm: spot[1] * drawn.height_mm } : mark;
    }),
  };
}

/** A port moved to a place on its side. The others of that side keep where they were drawn: half a side has no places. */
export function withPlace(draft: Profile, side: FaceSide, port: string, spot: Spot): Profile {
  const places = new Map(side.sockets.map((one): [string, Spot] => [one.id, [one.x_mm / side.width_mm, one.y_mm / side.height_mm]]));
  places.set(port, spot);
  let next = draft;
  for (const [id, [x, y]] of places) {
    const isSet = (draft.ports ?? []).some((one) => one.id === id && one.at);
    if (id === port || !isSet) next = withPort(next, id, { at: [clamped(x), clamped(y)] });
  }
  return next;
}

/** Where something on a side goes when it is moved by so much, as parts of the side. */
export const movedBy = (side: FaceSide, at: { x_mm: number; y_mm: number }, across: number, down: number): Spot => [
  clamped(at.x_mm / side.width_mm + across),
  clamped(at.y_mm / side.height_mm + down),
];

/** A place, as a document holds it. */
export const rounded = ([x, y]: Spot): Spot => [clamped(x), clamped(y)];
