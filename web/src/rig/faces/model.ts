import type { Answer, Face, FaceSide, Outline, Socket } from "../../api/client";

/** A side of a device as it is drawn: pixels to a millimetre, where its upper left corner is, and the box that cuts it off. */
export type Fitted = { scale: number; x: number; y: number; width: number; height: number; box: Box };
export type Box = { x: number; y: number; width: number; height: number };

/** The most pixels that a millimetre takes: a small box is not blown up to the size of a large one. */
const MOST_SCALE = 3.2;
/** The fewest: below that a socket is a dot, and only the part of the side around it is shown. */
const LEAST_SCALE = 0.9;
/** So far apart are two ports drawn that must not be taken for each other: one ring, one cross, a word at each. */
const APART = 46;
/** A socket is never drawn smaller than an eye finds at arm's length, whatever the scale. */
const LEAST_SOCKET = 20;
const LEAST_RING = 13;

/** A side in the middle of a box, as large as it goes in. */
export function fitted(side: FaceSide, box: Box): Fitted {
  return centred(side, box, Math.min(box.width / side.width_mm, box.height / side.height_mm, MOST_SCALE));
}

function centred(side: FaceSide, box: Box, scale: number): Fitted {
  const [width, height] = [side.width_mm * scale, side.height_mm * scale];
  return { scale, width, height, x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, box };
}

/** The same, or the part around some of its ports where these would lie too close to be told apart. */
export function around(side: FaceSide, box: Box, ports: readonly string[]): Fitted {
  const whole = fitted(side, box);
  const meant = side.sockets.filter(({ id, around_mm }) => ports.includes(id) && !around_mm);
  if (meant.length === 0) return whole;
  const closest = Math.min(...meant.flatMap((one) => meant.flatMap((other) => (one === other ? [] : [apartMm(one, other)]))), Infinity);
  const wanted = Math.max(LEAST_SCALE, APART / Math.max(closest, 1));
  if (whole.scale >= wanted) return whole;
  const { left, right, top, bottom } = extentOf(meant);
  // All of them stay in sight, with a margin.
  const most = Math.min(box.width / (right - left), box.height / (bottom - top)) / 1.4;
  const scale = Math.max(whole.scale, Math.min(wanted, most));
  const near = centred(side, box, scale);
  return {
    ...near,
    x: slid(near.x, near.width, box.x, box.width, ((left + right) / 2) * scale),
    y: slid(near.y, near.height, box.y, box.height, ((top + bottom) / 2) * scale),
  };
}

const apartMm = (one: Socket, other: Socket) => Math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm);

const extentOf = (sockets: readonly Socket[]) => ({
  left: Math.min(...sockets.map((one) => one.x_mm - one.width_mm / 2)),
  right: Math.max(...sockets.map((one) => one.x_mm + one.width_mm / 2)),
  top: Math.min(...sockets.map((one) => one.y_mm - one.height_mm / 2)),
  bottom: Math.max(...sockets.map((one) => one.y_mm + one.height_mm / 2)),
});

/** Where a side that is longer than its box begins, so that a middle of it is in sight and no more than needed is cut off. */
function slid(centre: number, length: number, from: number, room: number, middle: number): number {
  if (length <= room) return centre;
  return Math.min(from, Math.max(from + room - length, from + room / 2 - middle));
}

/** Where the middle of something on a side is drawn. */
export const spotOf = (one: { x_mm: number; y_mm: number }, at: Fitted) => ({
  x: at.x + one.x_mm * at.scale,
  y: at.y + one.y_mm * at.scale,
});

/** How far the nearest other socket is, in pixels. */
const nearest = (socket: Socket, side: FaceSide, scale: number) =>
  Math.min(
    ...side.sockets.flatMap((other) =>
      other.id === socket.id || other.around_mm || socket.around_mm ? [] : [apartMm(socket, other) * scale],
    ),
    Infinity,
  );

/** Pixels to a millimetre of a socket: that of its side, or more where it would be too small and there is room. */
export function socketScale(socket: Socket, side: FaceSide, scale: number): number {
  const own = Math.max(socket.width_mm, socket.height_mm);
  return Math.max(scale, Math.min(LEAST_SOCKET / own, (nearest(socket, side, scale) * 0.7) / own, 3 * scale));
}

/** The radius of the ring around a socket: it shows, and leaves its neighbours free. */
export function ringOf(socket: Socket, side: FaceSide, scale: number): number {
  const own = (Math.max(socket.width_mm, socket.height_mm) / 2) * socketScale(socket, side, scale) + 5;
  return Math.max(6, Math.min(Math.max(own, LEAST_RING), nearest(socket, side, scale) / 2 - 1));
}

/** Sockets that one door hides, with the box around them: it is opened first. */
export function doorsOf(side: FaceSide, at: Fitted): (Box & { name: string })[] {
  const names = [...new Set(side.sockets.flatMap((one) => (one.door ? [one.door] : [])))];
  return names.map((name) => {
    const behind = side.sockets.filter((one) => one.door === name);
    const margin = 7;
    const left = Math.min(...behind.map((one) => spotOf(one, at).x - (one.width_mm / 2) * socketScale(one, side, at.scale))) - margin;
    const right = Math.max(...behind.map((one) => spotOf(one, at).x + (one.width_mm / 2) * socketScale(one, side, at.scale))) + margin;
    const top = Math.min(...behind.map((one) => spotOf(one, at).y - (one.height_mm / 2) * socketScale(one, side, at.scale))) - margin;
    const bottom = Math.max(...behind.map((one) => spotOf(one, at).y + (one.height_mm / 2) * socketScale(one, side, at.scale))) + margin;
    return { name, x: left, y: top, width: right - left, height: bottom - top };
  });
}

type Shape = Outline["shapes"][number];

/** The corners of a shape as a path, in millimetres. */
export const cornersOf = (shape: Shape & { kind: "patch" }) => `M${shape.corners.map(([x, y]) => `${x} ${y}`).join("L")}Z`;

/** The side of a device's face that a port is on, and the port there. */
export function portOf(face: Face | undefined, port: string): { side: FaceSide; socket: Socket } | undefined {
  for (const side of face?.sides ?? []) {
    const socket = side.sockets.find((one) => one.id === port);
    if (socket) return { side, socket };
  }
  return undefined;
}

export const faceOf = (answer: Answer | undefined, device: string): Face | undefined => {
  const drawn = answer?.drawing.devices.find((one) => one.id === device);
  return drawn && answer?.drawing.faces[drawn.profile];
};

export type End = { device: string; endpoint: string };

/** A port of a device, with what must not be taken for it. */
export type Seen = { name: string; port: string; plug: string; side: FaceSide; socket: Socket; crossed: string[] };

/** What a step says of an end: the plug that goes in there, and the line that the picture takes the place of. */
export type Told = { device: string; endpoint: string; plug: string; says: string };

/** Both ends of what is plugged, as they are seen; nothing where one of them is no port, as of a radio. */
export function endsSeen(answer: Answer | undefined, ends: readonly [End, End], told: readonly Told[] = []): [Seen, Seen] | undefined {
  const seen = ends.flatMap((end): Seen[] => {
    const found = portOf(faceOf(answer, end.device), end.endpoint);
    const name = answer?.drawing.devices.find((one) => one.id === end.device)?.name ?? "";
    const plug = told.find((one) => one.device === end.device && one.endpoint === end.endpoint)?.plug ?? "";
    return found ? [{ name, port: end.endpoint, plug, ...found, crossed: lookAlikes(answer, end, ends) }] : [];
  });
  return seen.length === 2 ? (seen as [Seen, Seen]) : undefined;
}

/** The ports of an end's device that the plan says to keep out of with this join. */
function lookAlikes(answer: Answer | undefined, end: End, [a, b]: readonly [End, End]): string[] {
  const same = (one: End, other: End) => one.device === other.device && one.endpoint === other.endpoint;
  const join = answer?.plan.joins.find(({ link }) => (same(link.a, a) && same(link.b, b)) || (same(link.a, b) && same(link.b, a)));
  return (join?.beside ?? []).flatMap((one) => (one.device === end.device ? [one.endpoint] : []));
}

/** Type at the ports, in pixels, and how wide a letter of it is. */
export const TYPE = 16;
const LETTER = 9.3;

export type Label = { x: number; y: number; anchor: "start" | "end" | "middle" };

/** Where the marking of a port is written: beside its ring where there is room in sight, else above or below it. */
export function labelAt(words: string, spot: { x: number; y: number }, ring: number, box: Box, isBelow: boolean): Label {
  const wide = words.length * LETTER;
  const beside = ring + 6;
  const y = spot.y + TYPE / 3;
  if (spot.x + beside + wide <= box.x + box.width) return { x: spot.x + beside, y, anchor: "start" };
  if (spot.x - beside - wide >= box.x) return { x: spot.x - beside, y, anchor: "end" };
  const x = Math.min(Math.max(spot.x, box.x + wide / 2), Math.max(box.x + wide / 2, box.x + box.width - wide / 2));
  const above = spot.y - ring - 6;
  return { x, y: isBelow || above - TYPE < box.y ? spot.y + ring + TYPE : above, anchor: "middle" };
}
