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

/** Where a place goes when it is moved by so much, as parts of its side. */
export const movedBy = (side: FaceSide, port: string, across: number, down: number): Spot => {
  const socket = side.sockets.find(({ id }) => id === port);
  return [clamped((socket?.x_mm ?? 0) / side.width_mm + across), clamped((socket?.y_mm ?? 0) / side.height_mm + down)];
};
