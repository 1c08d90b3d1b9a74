import type { ElkExtendedEdge, ElkNode, ElkPoint } from "elkjs/lib/elk-api";

import type { Answer, Drawing, Plan } from "../../api/client";
import type { PictogramName } from "../../ui";

export type Stage = Drawing["devices"][number]["stage"];
export const LANES: { stage: Stage; name: string; axis: string }[] = [
  { stage: "tilt-cage", name: "Tilt cage", axis: "tilt axis" },
  { stage: "roll-arm", name: "Roll arm", axis: "roll axis" },
  { stage: "pan-base", name: "Pan base", axis: "pan axis" },
  { stage: "handles", name: "Handles", axis: "" },
  { stage: "off-gimbal", name: "Off the gimbal", axis: "" },
];
/** Type on the map, in the units of the drawing: high against the boxes, since a map is short of height, not of width. */
export const TYPE = { device: 23, port: 21, lane: 21, axis: 21, flag: 21 };
export const LANE_LABEL_WIDTH = 132;
const EMPTY_LANE_HEIGHT = 18;
/** So wide is a letter against its height, bold and plain: measured on the names that ship. */
const BOLD = 0.6;
const PLAIN = 0.54;
const CAPITAL = 0.66;
const DEVICE_HEIGHT = 36;
export const PORT_HEIGHT = 26;

const PORT_MARGIN = 18;

/** How wide a marking may be written in its box, where it would not fit as it is: many are all capitals. */
export function squeezed(marking: string): number | undefined {
  const capitals = marking.replace(/[^A-Z]/g, "").length;
  const wide = TYPE.port * (capitals * CAPITAL + (marking.length - capitals) * PLAIN);
  const room = marking.length * TYPE.port * PLAIN + PORT_MARGIN - 8;
  return wide > room ? room : undefined;
}

/** The pictogram before a device's name. */
export const ICON = 26;

const nameWidth = (name: string) => Math.max(110, name.length * TYPE.device * BOLD + 16 + ICON);

/** Whether a rig has so many devices that its map wants the whole screen. */
export function isLarge(drawing: Drawing): boolean {
  return drawing.devices.filter((device) => device.used).length > 8;
}

/** The graph that the layout engine is given: one partition per lane, a bare spacer in each lane with nothing in it. */
export function toGraph(drawing: Drawing, plan: Plan): ElkNode {
  const used = drawing.devices.filter((device) => device.used);
  const roomy = !isLarge(drawing);
  const lane = (stage: Stage) => LANES.findIndex((one) => one.stage === stage);
  const nodes: ElkNode[] = used.flatMap((device) => [
    boxOf(
      device.id,
      device.name,
      lane(device.stage),
      device.ports.filter((port) => port.stage === device.stage),
    ),
    ...outletsOf(device).map((outlet) => boxOf(outlet.id, device.name, lane(outlet.stage), outlet.ports)),
  ]);
  const spacers: ElkNode[] = LANES.filter(
    ({ stage }) => !used.some((device) => device.stage === stage || device.ports.some((port) => port.stage === stage)),
  ).map(({ stage }) => ({
    id: `empty ${stage}`,
    width: 10,
    height: EMPTY_LANE_HEIGHT,
    layoutOptions: { "elk.partitioning.partition": String(lane(stage)) },
  }));
  const place = new Map(used.map((device) => [device.id, lane(device.stage)]));
  const leads = [...new Set(plan.joins.flatMap(({ link }) => (link.lead ? [link.lead] : [])))];
  for (const lead of leads) {
    const lanes = plan.joins
      .filter(({ link }) => link.lead === lead)
      .flatMap(({ link }) => [place.get(link.a.device) ?? 0, place.get(link.b.device) ?? 0]);
    place.set(lead, Math.min(...lanes));
    nodes.push({
      id: lead,
      width: 26,
      height: 26,
      layoutOptions: { "elk.partitioning.partition": String(Math.min(...lanes)) },
    });
  }
  const bodies = new Set(used.flatMap((device) => (device.kind === "camera-body" ? [device.id] : [])));
  const edges: ElkExtendedEdge[] = piecesOf(plan).map((piece) => {
    const laneOf = (end: End) => place.get(end.device) ?? 0;
    // The body on top, and what is mounted on it below, beside its lens: a layer less.
    const below = (end: End) => (piece.join.family === "mount" && !bodies.has(end.device) ? 1 : 0);
    const ends = [piece.from, piece.to].sort((one, other) => laneOf(one) - laneOf(other) || below(one) - below(other));
    const [from, to] = ends.map((end) => (end.endpoint ? `${end.device}.${end.endpoint}` : end.device));
    return { id: piece.id, sources: [from ?? ""], targets: [to ?? ""] };
  });
  // A device with an outlet on another lane reaches through the axes by itself: no cable crosses there.
  const inner: ElkExtendedEdge[] = used.flatMap((device) =>
    outletsOf(device).map((outlet) => {
      const [from, to] = lane(outlet.stage) < lane(device.stage) ? [outlet.id, device.id] : [device.id, outlet.id];
      return { id: `inside ${outlet.id}`, sources: [from], targets: [to] };
    }),
  );
  return {
    id: "rig",
    layoutOptions: {
      "elk.algorithm": "layered",
      "elk.direction": "DOWN",
      "elk.partitioning.activate": "true",
      "elk.separateConnectedComponents": "false",
      "elk.edgeRouting": "ORTHOGONAL",
      "elk.layered.spacing.nodeNodeBetweenLayers": roomy ? "44" : "12",
      "elk.layered.spacing.edgeNodeBetweenLayers": roomy ? "16" : "7",
      "elk.spacing.nodeNode": roomy ? "34" : "14",
      "elk.spacing.edgeEdge": roomy ? "20" : "12",
      "elk.spacing.edgeNode": roomy ? "32" : "12",
      "elk.layered.nodePlacement.strategy": "NETWORK_SIMPLEX",
      "elk.randomSeed": "1",
    },
    children: [...nodes, ...spacers],
    edges: [...edges, ...inner],
  };
}

type MapDevice = Drawing["devices"][number];
export type Outlet = { id: string; stage: Stage; ports: MapDevice["ports"][number][] };

/** The ports of a device that sit on another stage than it does, by stage: each is drawn where it is. */
export function outletsOf(device: MapDevice): Outlet[] {
  const stages = [...new Set(device.ports.map((port) => port.stage))].filter((stage) => stage !== device.stage);
  return stages.map((stage) => ({
    id: `${device.id} ${stage}`,
    stage,
    ports: device.ports.filter((port) => port.stage === stage),
  }));
}

function boxOf(id: string, name: string, partition: number, ports: readonly MapDevice["ports"][number][]): ElkNode {
  return {
    id,
    width: nameWidth(name),
    height: DEVICE_HEIGHT,
    layoutOptions: {
      "elk.partitioning.partition": String(partition),
      "elk.nodeSize.constraints": "[PORTS, MINIMUM_SIZE]",
      "elk.nodeSize.minimum": `(${nameWidth(name)}, ${DEVICE_HEIGHT})`,
      "elk.spacing.portPort": "8",
    },
    ports: ports.map((port) => ({
      id: `${id.split(" ")[0]}.${port.id}`,
      width: port.marking.length * TYPE.port * PLAIN + PORT_MARGIN,
      height: PORT_HEIGHT,
    })),
  };
}

type End = { device: string; endpoint: string };
export type Piece = { id: string; from: End; to: End; join: Plan["joins"][number] };

/** The lines of the map: one per join; a cable with three and more ends has a knot of its own and a line to each end. */
export function piecesOf(plan: Plan): Piece[] {
  const seen = new Set<string>();
  return plan.joins.flatMap((join): Piece[] => {
    const { link } = join;
    if (!link.lead) return [{ id: link.id, from: link.a, to: link.b, join }];
    const knot = { device: link.lead, endpoint: "" };
    return [link.a, link.b].flatMap((end) => {
      const id = `${link.lead}|${end.device}.${end.endpoint}`;
      if (seen.has(id)) return [];
      seen.add(id);
      return [{ id, from: end, to: knot, join }];
    });
  });
}

/** The joins that light up together: the one that was tapped, and the others of the same piece. */
export function litWith(plan: Plan, links: ReadonlySet<string>): Set<string> {
  const leads = new Set(plan.joins.flatMap(({ link }) => (link.lead && links.has(link.id) ? [link.lead] : [])));
  return new Set(plan.joins.flatMap(({ link }) => (links.has(link.id) || (link.lead && leads.has(link.lead)) ? [link.id] : [])));
}

export type Band = { name: string; top: number; bottom: number; axis: string; isEmpty: boolean };

/** The lanes of a laid-out graph, top to bottom; neighbours meet halfway between what they hold. */
export function bandsOf(graph: ElkNode): Band[] {
  const rows = LANES.map(({ stage, name, axis }, index) => {
    const here = (graph.children ?? []).filter((node) => node.layoutOptions?.["elk.partitioning.partition"] === String(index));
    return {
      name,
      axis,
      isEmpty: here.some((node) => node.id === `empty ${stage}`),
      top: Math.min(...here.flatMap((node) => [0, ...(node.ports ?? []).map((port) => port.y ?? 0)].map((y) => (node.y ?? 0) + y))),
      bottom: Math.max(
        ...here.flatMap((node) =>
          [node.height ?? 0, ...(node.ports ?? []).map((port) => (port.y ?? 0) + PORT_HEIGHT)].map((y) => (node.y ?? 0) + y),
        ),
      ),
    };
  });
  return rows.map((row, index) => {
    const before = rows[index - 1];
    const after = rows[index + 1];
    return {
      ...row,
      top: before ? (before.bottom + row.top) / 2 : row.top - 8,
      bottom: after ? (row.bottom + after.top) / 2 : row.bottom + 8,
    };
  });
}

/** The corner points of an edge. */
export function pointsOf(edge: ElkExtendedEdge): ElkPoint[] {
  const section = edge.sections?.[0];
  return section ? [section.startPoint, ...(section.bendPoints ?? []), section.endPoint] : [];
}

/** Boxes along a line, wide enough to be hit: a straight line by itself has no width. */
export function boxesAlong(points: ElkPoint[], width: number): { x: number; y: number; width: number; height: number }[] {
  return points.slice(1).map((point, index) => {
    const before = points[index]!;
    return {
      x: Math.min(point.x, before.x) - width / 2,
      y: Math.min(point.y, before.y) - width / 2,
      width: Math.abs(point.x - before.x) + width,
      height: Math.abs(point.y - before.y) + width,
    };
  });
}

/** Where a tape flag hangs: the middle of the longest straight piece. */
export function flagPoint(points: ElkPoint[]): ElkPoint {
  let best = { x: 0, y: 0 };
  let longest = -1;
  points.slice(1).forEach((point, index) => {
    const before = points[index]!;
    const length = Math.abs(point.x - before.x) + Math.abs(point.y - before.y);
    if (length > longest) {
      longest = length;
      best = { x: (point.x + before.x) / 2, y: (point.y + before.y) / 2 };
    }
  });
  return best;
}

type Rect = { x: number; y: number; width: number; height: number };
export const FLAG = { width: 62, height: 26 };
/** So much higher is a flag with a second line: what its lead carries. */
export const FLAG_LINE = 20;
const BESIDE = [40, 55, 70, 85, 100, 120];

/** How much of two boxes is the same. */
const common = (one: Rect, other: Rect) =>
  Math.max(0, Math.min(one.x + one.width, other.x + other.width) - Math.max(one.x, other.x)) *
  Math.max(0, Math.min(one.y + one.height, other.y + other.height) - Math.max(one.y, other.y));

/** Where the names of the axes stand: at the end of the line that each crosses. */
export function axisNames(graph: ElkNode): Rect[] {
  return bandsOf(graph)
    .filter(({ axis }) => axis)
    .map(({ axis, bottom }) => {
      const width = axis.length * TYPE.axis * PLAIN;
      return { x: (graph.width ?? 0) - width, y: bottom - 4 - TYPE.axis, width, height: TYPE.axis };
    });
}

/**
 * Where each tape flag hangs: on its line where there is room, else beside it; never over a name or other `words`, as far
 * as that can be. `tall`: those with a second line.
 */
export function flagsOf(
  graph: ElkNode,
  ids: readonly string[],
  words: readonly Rect[] = [],
  tall: ReadonlySet<string> = new Set(),
): Map<string, { on: ElkPoint; at: ElkPoint }> {
  const names: Rect[] = (graph.children ?? []).flatMap((node) => {
    const [x, y] = [node.x ?? 0, node.y ?? 0];
    const box = { x, y, width: node.width ?? 0, height: node.height ?? 0 };
    return [
      box,
      ...(node.ports ?? []).map((port) => ({
        x: x + (port.x ?? 0),
        y: y + (port.y ?? 0),
        width: port.width ?? 0,
        height: port.height ?? 0,
      })),
    ];
  });
  const taken = [...names, ...words];
  const flags = new Map<string, { on: ElkPoint; at: ElkPoint }>();
  for (const id of ids) {
    const edge = graph.edges?.find((one) => one.id === id);
    if (!edge) continue;
    const points = pointsOf(edge);
    const on = flagPoint(points);
    const along = [0.5, 0.35, 0.65, 0.2, 0.8].flatMap((part) =>
      points.slice(1).map((point, index) => {
        const before = points[index]!;
        return { x: before.x + (point.x - before.x) * part, y: before.y + (point.y - before.y) * part };
      }),
    );
    const places = [
      on,
      ...along,
      ...BESIDE.flatMap((far) => [
        { x: on.x - far, y: on.y },
        { x: on.x + far, y: on.y },
      ]),
    ];
    const boxAt = (place: ElkPoint) => ({
      x: place.x - FLAG.width / 2,
      y: place.y - FLAG.height / 2,
      width: FLAG.width,
      height: FLAG.height + (tall.has(id) ? FLAG_LINE : 0),
    });
    // Where it is free nowhere it lies where it covers least.
    const covers = (place: ElkPoint) => taken.reduce((sum, other) => sum + common(boxAt(place), other), 0);
    const at = places.find((place) => covers(place) === 0) ?? places.toSorted((one, other) => covers(one) - covers(other))[0]!;
    taken.push(boxAt(at));
    flags.set(id, { on: along.includes(at) ? at : on, at });
  }
  return flags;
}

/** A line through `points` with rounded corners. */
export function pathOf(points: ElkPoint[], radius = 8): string {
  const [first, ...rest] = points;
  if (!first) return "";
  let path = `M${first.x} ${first.y}`;
  rest.forEach((corner, index) => {
    const after = rest[index + 1];
    if (!after) {
      path += ` L${corner.x} ${corner.y}`;
      return;
    }
    const before = points[index]!;
    const into = towards(corner, before, radius);
    const out = towards(corner, after, radius);
    path += ` L${into.x} ${into.y} Q${corner.x} ${corner.y} ${out.x} ${out.y}`;
  });
  return path;
}

function towards(from: ElkPoint, to: ElkPoint, most: number): ElkPoint {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  const step = Math.min(most, length / 2) / length;
  return { x: from.x + (to.x - from.x) * step, y: from.y + (to.y - from.y) * step };
}

/** What a flag bears beside its tag: the family again, for who sees neither colour nor pattern. */
export const FAMILY_MARKS: Record<string, PictogramName> = {
  control: "controller",
  video: "picture",
  power: "battery",
  "motor-bus": "motor",
  radio: "transmitter",
};

/** The joins that a rig which stands built lacks yet: those that its changed sheet plugs. */
export function changedLinks(answer: Pick<Answer, "plan" | "since_built">): Set<string> {
  const plugged = (answer.since_built?.steps ?? []).flatMap(({ act }) =>
    act.kind === "plug" ? [[act.a, act.b].map(endKey).sort().join()] : [],
  );
  const fresh = new Set(plugged);
  return new Set(answer.plan.joins.flatMap(({ link }) => (fresh.has([link.a, link.b].map(endKey).sort().join()) ? [link.id] : [])));
}

const endKey = (end: { device: string; endpoint: string }) => `${end.device}.${end.endpoint}`;

/** Line patterns by family, so that colour is never needed to tell them apart. */
export const PATTERNS: Record<string, { dash: string; width: number; word: string }> = {
  control: { dash: "", width: 4, word: "control" },
  video: { dash: "14 6", width: 4, word: "video" },
  power: { dash: "3 6", width: 4, word: "power" },
  "motor-bus": { dash: "10 4 2 4", width: 4, word: "motor bus" },
  mount: { dash: "", width: 9, word: "mounted" },
  radio: { dash: "1 9", width: 5, word: "radio" },
};
