import type { Rig, Schemas } from "../../api/client";

export type Gimbal = Schemas["GimbalMarks"];
export type Mark = Schemas["MarkRow"];
export type Pole = Schemas["PoleRow"];
export type Item = Schemas["Item"];
export type View = "side" | "back" | "top";
type Three = Schemas["Three"];
export type Device = Rig["devices"][number];
export type Sits = NonNullable<Device["sits"]>;

export const VIEWS: { view: View; name: string }[] = [
  { view: "side", name: "From the side" },
  { view: "back", name: "From behind" },
  { view: "top", name: "From above" },
];

/** Millimetres to the right and down of the crossing of the axes, as it is looked at: front to the right from the side. */
export function seen(view: View, { right, forward, up }: Three): [number, number] {
  if (view === "side") return [forward, -up];
  return view === "back" ? [right, -up] : [right, -forward];
}

/** Width and height of an outline, as it is looked at. */
export function outline(view: View, { right: width, forward: depth, up: height }: Three): [number, number] {
  if (view === "side") return [depth, height];
  return view === "back" ? [width, height] : [width, depth];
}

export type Frame = { left: number; top: number; width: number; height: number };

/** What of the drawing has to be in sight: every outline, the crossing of the axes and some places besides, with air around. */
export function frameOf(items: readonly Item[], view: View, besides: readonly Three[] = [], air = 30): Frame {
  const edges = items.flatMap((item) => {
    const [x, y] = seen(view, item.middle);
    const [w, h] = outline(view, item.size);
    return [
      [x - w / 2, y - h / 2],
      [x + w / 2, y + h / 2],
    ];
  });
  edges.push(...besides.map((at) => seen(view, at)));
  const xs = [0, ...edges.map(([x]) => x!)];
  const ys = [0, ...edges.map(([, y]) => y!)];
  const [left, top] = [Math.min(...xs) - air, Math.min(...ys) - air];
  return { left, top, width: Math.max(...xs) + air - left, height: Math.max(...ys) + air - top };
}

/** How far along its travel a figure stands: 0 at the least, 1 at the most. */
export const along = (mark: Mark, figure: number) => Math.min(1, Math.max(0, (figure - mark.from_mm) / (mark.to_mm - mark.from_mm)));

/** `12`, `11.5`: a figure as it is read from a scale. */
export const figure = (value: number) => String(Number(value.toFixed(1)));

const ARROWS: Record<string, string> = { forward: "▲", back: "▼", right: "▶", left: "◀", up: "▲", down: "▼" };
/** The arrow for a way to slide something: forwards and up point up. */
export const arrow = (way: string) => ARROWS[way] ?? "";

/** What has to be done with a scale, as short as it can be said: a way and how far, or where to. */
export function toDo(mark: Mark): { big: string; small: string } {
  if (mark.by_mm == null) return { big: figure(mark.mark_mm), small: "mm" };
  if (!mark.way) return { big: "✓", small: "stays" };
  return { big: `${arrow(mark.way)} ${figure(Math.abs(mark.by_mm))}`, small: `mm ${mark.way}` };
}

/** `rig` with a scale of a gimbal noted where it stands; nothing: nobody has looked. */
export function withMark(rig: Rig, gimbal: string, slide: string, value: number | null): Rig {
  return changed(rig, gimbal, (device) => {
    const marks = Object.fromEntries(Object.entries(device.marks_mm ?? {}).filter(([key]) => key !== slide));
    return { ...device, marks_mm: value === null ? marks : { ...marks, [slide]: value } };
  });
}

/** `rig` with every scale of a gimbal noted where it has to stand. */
export function withAllSet(rig: Rig, gimbal: Gimbal): Rig {
  const marks = Object.fromEntries((gimbal.marks ?? []).map((mark) => [mark.slide, mark.mark_mm]));
  const set = changed(rig, gimbal.gimbal, (device) => ({ ...device, marks_mm: marks }));
  return gimbal.pole ? withMark(set, gimbal.pole.device, gimbal.pole.slide, gimbal.pole.mark_mm) : set;
}

/** `rig` with the build that stands now noted as one that is in balance: later marks are learned from it. */
export function withStood(rig: Rig, { gimbal, readings }: Gimbal): Rig {
  const stood = [...(rig.stood ?? []), { gimbal, readings: [...(readings ?? [])] }];
  return { ...rig, stood: stood.slice(-100) as Rig["stood"] };
}

/** `rig` with something changed of one device. */
export function changed(rig: Rig, id: string, change: (device: Device) => Device): Rig {
  return { ...rig, devices: rig.devices.map((device) => (device.id === id ? change(device) : device)) };
}

export const SIDES: { value: Sits["side"]; label: string }[] = [
  { value: "top", label: "on top" },
  { value: "back", label: "at the back" },
  { value: "left", label: "on the left" },
  { value: "right", label: "on the right" },
  { value: "bottom", label: "below" },
  { value: "front", label: "in front" },
];

/** By what the place of a thing is known. */
export const HOW: Record<Item["how"], string> = {
  measured: "Its place is as you measured it.",
  said: "Its place is as you said.",
  mated: "It sits by its mount.",
  meshed: "It sits at its ring.",
  plate: "It sits on the plate.",
  assumed: "Nobody said where it sits: taken to be where such things do.",
  part: "A piece of the gimbal.",
  lead: "A lead.",
  fixing: "A small part: it sits where what it holds is mounted.",
};

/** Whether a thing is one that a hand puts on and takes off: no lead, no piece of the gimbal, no screw. */
export const isCarried = (item: Item): boolean => !["lead", "part", "fixing"].includes(item.how);

/** What is tried in the head: what comes off, what goes on (nothing, a weight, a profile) and where (`-id`: in its place). */
export type Attempt = { off: string[]; what: string; mass_g: number | null; where: string; side: Sits["side"] };
export const NOTHING_TRIED: Attempt = { off: [], what: "", mass_g: null, where: "", side: "top" };
export const WEIGHT = "?";

/** Whether there is anything to reckon yet: a weight of which nobody said how heavy it is says nothing. */
export const tries = ({ off, what, mass_g }: Attempt) => off.length > 0 || (what === WEIGHT ? mass_g !== null : what !== "");

/** An attempt as it is asked. */
export function asked(gimbal: Gimbal, { off, what, mass_g, where, side }: Attempt): Schemas["BalanceTry"] {
  if (what === "" || (what === WEIGHT && mass_g === null)) return { gimbal: gimbal.gimbal, off, on: [] };
  const profile = what === WEIGHT ? null : what;
  const there =
    where.startsWith("-") && off.includes(where.slice(1)) ? { instead_of: where.slice(1) } : { on: where.replace(/^-/, "") || null };
  return { gimbal: gimbal.gimbal, off, on: [{ profile, mass_g, side, from_left: 0.5, from_top: 0.5, ...there }] };
}
