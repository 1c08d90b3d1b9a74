import { useQuery } from "@tanstack/react-query";
import type { ElkNode } from "elkjs/lib/elk-api";
import type { CSSProperties, ReactNode } from "react";

import type { Answer } from "../../../api/client";
import { carried, usePanel } from "../../../rig";
import { familyToken, ofKind, OnItsWay, PictogramShape } from "../../../ui";
import {
  axisNames,
  type Band,
  bandsOf,
  boxesAlong,
  changedLinks,
  FAMILY_MARKS,
  FLAG,
  FLAG_LINE,
  flagsOf,
  ICON,
  LANE_LABEL_WIDTH,
  outletsOf,
  pathOf,
  PATTERNS,
  piecesOf,
  PORT_HEIGHT,
  pointsOf,
  squeezed,
  toGraph,
  TYPE,
} from "../model";
import { Out } from "./out";
import { Zoomed } from "./zoomed";

const FAR = 4000;
const LEAST_SCALE = 0.62;

/** The layout engine is large: it is loaded when the first map is drawn. */
async function laidOut(answer: Answer): Promise<ElkNode> {
  const { default: Elk } = await import("elkjs/lib/elk.bundled.js");
  const graph = toGraph(answer.drawing, answer.plan);
  try {
    return await new Elk().layout(structuredClone(graph));
  } catch {
    // The engine cannot lay every graph out with square corners; slanted ones it can.
    return new Elk().layout({ ...graph, layoutOptions: { ...graph.layoutOptions, "elk.edgeRouting": "POLYLINE" } });
  }
}

/** What the map shows when some families are switched off: their joins are left out, the rest is laid out anew. */
function withoutFamilies(answer: Answer, hidden: string[]): Answer {
  if (hidden.length === 0) return answer;
  return { ...answer, plan: { ...answer.plan, joins: answer.plan.joins.filter((join) => !hidden.includes(join.family)) } };
}

/** The rig map: lanes from the tilt cage outwards, the axes between them, cables with their tape flags. */
export function RigMap({
  answer: whole,
  lit,
  hidden,
  name,
  foot,
  onTap,
}: {
  answer: Answer;
  lit: Set<string>;
  hidden: string[];
  /** What the drawing is called as a file. */
  name: string;
  /** What else stands below it. */
  foot: ReactNode;
  onTap: (link: string) => void;
}) {
  const answer = withoutFamilies(whole, hidden);
  const { data: graph } = useQuery({
    queryKey: ["map", JSON.stringify([answer.drawing.devices, answer.plan.joins.map((join) => join.link.id)])],
    queryFn: () => laidOut(answer),
    staleTime: Infinity,
    placeholderData: (old) => old,
  });
  if (!graph) return <OnItsWay says="Drawing the map" />;
  const bands = bandsOf(graph);
  const top = bands[0]?.top ?? 0;
  const bottom = bands.at(-1)?.bottom ?? 0;
  const width = (graph.width ?? 0) + LANE_LABEL_WIDTH;
  return (
    <Zoomed
      label="Map, scrolls where it is large"
      beside={
        <>
          <Out name={name} />
          {foot}
        </>
      }
    >
      <svg
        data-map
        viewBox={`${-LANE_LABEL_WIDTH} ${top} ${width} ${bottom - top}`}
        // Never drawn so small that it cannot be read: then it scrolls. Where there is little room, on a phone or beside a
        // panel, all of it is seen first, and pinched.
        style={{ "--least-width": `${width * LEAST_SCALE}px`, "--least-height": `${(bottom - top) * LEAST_SCALE}px` } as CSSProperties}
        className="h-full w-full @lg:min-h-(--least-height) @lg:min-w-(--least-width)"
        role="group"
        aria-label="Rig map"
        data-drawn={graph.edges?.map((edge) => edge.id).join(" ")}
      >
        <Lanes bands={bands} width={graph.width ?? 0} />
        <Edges graph={graph} answer={answer} lit={lit} onTap={onTap} />
        <Devices graph={graph} answer={answer} />
        <Flags graph={graph} answer={answer} lit={lit} />
      </svg>
    </Zoomed>
  );
}

/** The stages of the gimbal, one below the other, with the axes between them. */
function Lanes({ bands, width }: { bands: readonly Band[]; width: number }) {
  return (
    <>
      {bands.map((band, index) => (
        <g key={band.name}>
          {/* Wider than the drawing, so that a lane reaches both edges whatever the shape of the panel. */}
          <rect
            x={-FAR}
            y={band.top}
            width={2 * FAR}
            height={band.bottom - band.top}
            className={index % 2 ? "fill-panel" : "fill-ground"}
          />
          <text x={-LANE_LABEL_WIDTH} y={(band.top + band.bottom) / 2 + 5} fontSize={TYPE.lane} className="fill-soft font-semibold">
            {band.name}
          </text>
        </g>
      ))}
      {bands.slice(0, -1).map((band) => (
        <g key={`${band.name} below`}>
          <line x1={-FAR} x2={FAR} y1={band.bottom} y2={band.bottom} className="stroke-edge" strokeWidth={1.5} strokeDasharray="2 5" />
          {band.axis && (
            <text x={width} y={band.bottom - 4} textAnchor="end" fontSize={TYPE.axis} className="fill-soft">
              {band.axis}
            </text>
          )}
        </g>
      ))}
    </>
  );
}

function Devices({ graph, answer }: { graph: ElkNode; answer: Answer }) {
  return answer.drawing.devices.map((device) => (
    <g key={device.id}>
      <Box graph={graph} id={device.id} device={device} ports={device.ports.filter((port) => port.stage === device.stage)} />
      {outletsOf(device).map((outlet) => (
        <Box key={outlet.id} graph={graph} id={outlet.id} device={device} ports={outlet.ports} />
      ))}
    </g>
  ));
}

type MapDevice = Answer["drawing"]["devices"][number];

/** A device, or the part of it that sits on another stage, with its ports. Tapped, it opens as it lies there. */
function Box({
  graph,
  id,
  device,
  ports,
}: {
  graph: ElkNode;
  id: string;
  device: MapDevice;
  ports: readonly MapDevice["ports"][number][];
}) {
  const { show } = usePanel();
  const node = graph.children?.find((one) => one.id === id);
  if (!node) return null;
  const x = node.x ?? 0;
  const y = node.y ?? 0;
  const isPart = id !== device.id;
  const open = () => show({ kind: "device", id: device.id });
  return (
    <g>
      <g
        role="button"
        tabIndex={isPart ? -1 : 0}
        aria-label={isPart ? `${device.name}, its outlet here` : `${device.name}, as it lies there`}
        onClick={open}
        onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && open()}
        className="cursor-pointer"
      >
        <rect
          x={x}
          y={y}
          width={node.width}
          height={node.height}
          rx={6}
          className="fill-raised stroke-ink"
          strokeWidth={1.5}
          strokeDasharray={isPart ? "5 4" : undefined}
        />
        <g transform={`translate(${x + 8} ${y + (node.height ?? 0) / 2 - ICON / 2}) scale(${ICON / 24})`} className="text-soft">
          <PictogramShape name={ofKind(device.kind)} />
        </g>
        <text
          x={x + (node.width ?? 0) / 2 + ICON / 2 + 2}
          y={y + (node.height ?? 0) / 2 + 8}
          textAnchor="middle"
          fontSize={TYPE.device}
          className={`fill-ink ${isPart ? "" : "font-bold"}`}
        >
          {device.name}
        </text>
      </g>
      {ports.map((port) => {
        const at = node.ports?.find((one) => one.id === `${device.id}.${port.id}`);
        return at && <PortMark key={port.id} port={port} at={{ ...at, x: x + (at.x ?? 0), y: y + (at.y ?? 0) }} />;
      })}
    </g>
  );
}

/** A port as it is marked. */
function PortMark({ port, at }: { port: MapDevice["ports"][number]; at: { x: number; y: number; width?: number; height?: number } }) {
  return (
    <g>
      <title>{`${port.marking}: ${port.place}, ${port.connector}`}</title>
      <rect
        x={at.x}
        y={at.y}
        width={at.width}
        height={at.height}
        rx={port.is_radio ? 13 : 3}
        className="fill-panel stroke-edge"
        strokeWidth={1.5}
      />
      <text
        x={at.x + (at.width ?? 0) / 2}
        y={at.y + PORT_HEIGHT - 6}
        textAnchor="middle"
        textLength={squeezed(port.marking)}
        lengthAdjust="spacingAndGlyphs"
        fontSize={TYPE.port}
        className="fill-ink"
      >
        {port.marking}
      </text>
    </g>
  );
}

function Edges({ graph, answer, lit, onTap }: { graph: ElkNode; answer: Answer; lit: Set<string>; onTap: (link: string) => void }) {
  const changed = changedLinks(answer);
  const knots = new Map(piecesOf(answer.plan).flatMap(({ join }) => (join.link.lead ? [[join.link.lead, join] as const] : [])));
  return (
    <>
      {graph.edges
        ?.filter((edge) => edge.id.startsWith("inside "))
        .map((edge) => (
          <path key={edge.id} d={pathOf(pointsOf(edge))} fill="none" className="stroke-ink" strokeWidth={7} opacity={0.25} />
        ))}
      <g role="list" aria-label="Cables, mounts and radio links">
        {piecesOf(answer.plan).map(({ id, join, from, to }) => {
          const edge = graph.edges?.find((one) => one.id === id);
          if (!edge) return null;
          const points = pointsOf(edge);
          const look = PATTERNS[join.family] ?? PATTERNS.control!;
          const colour = `var(--${familyToken(join.family)})`;
          const dim = lit.size > 0 && !lit.has(join.link.id);
          return (
            <g key={id} role="listitem">
              <g
                role="button"
                tabIndex={0}
                aria-label={`${join.tag}, ${look.word}: ${[from, to].map((end) => endWords(answer, end)).join(" to ")}`}
                onClick={() => onTap(join.link.id)}
                onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onTap(join.link.id)}
                className="cursor-pointer"
                opacity={dim ? 0.3 : 1}
              >
                {boxesAlong(points, 28).map((box, index) => (
                  <rect key={index} {...box} fill="transparent" />
                ))}
                {changed.has(join.link.id) && (
                  <path d={pathOf(points)} fill="none" className="stroke-warn" strokeWidth={look.width + 8} strokeDasharray="2 9" />
                )}
                {lit.has(join.link.id) && (
                  <path d={pathOf(points)} fill="none" className="stroke-ink" strokeWidth={look.width + 6} opacity={0.35} />
                )}
                <path
                  d={pathOf(points)}
                  fill="none"
                  stroke={colour}
                  strokeWidth={look.width}
                  strokeDasharray={look.dash}
                  strokeLinecap={join.family === "radio" ? "round" : "butt"}
                />
              </g>
            </g>
          );
        })}
      </g>
      {[...knots].map(([lead, join]) => {
        const knot = graph.children?.find((one) => one.id === lead);
        if (!knot) return null;
        return <circle key={lead} cx={(knot.x ?? 0) + 13} cy={(knot.y ?? 0) + 13} r={12} fill={`var(--${familyToken(join.family)})`} />;
      })}
    </>
  );
}

/** An end of a line in words; the knot of a cable with more than two ends is called by what it is. */
function endWords(answer: Answer, end: { device: string; endpoint: string }): string {
  const device = answer.drawing.devices.find((one) => one.id === end.device);
  const port = device?.ports.find((one) => one.id === end.endpoint);
  return device && port ? `${port.marking} of ${device.name}` : "the knot of the cable";
}

/** The tape flags lie on top of everything: they are what a person looks for. */
function Flags({ graph, answer, lit }: { graph: ElkNode; answer: Answer; lit: Set<string> }) {
  const pieces = piecesOf(answer.plan).filter(({ join }) => join.family !== "mount");
  // A piece with several ends has a flag at each; what it carries stands on the first.
  const carries = new Map(
    pieces
      .filter(({ join }, at) => pieces.findIndex((one) => one.join.tag === join.tag) === at)
      .flatMap(({ id, join }) => {
        const says = carried(answer, join.tag);
        return says ? [[id, says] as const] : [];
      }),
  );
  const flags = flagsOf(
    graph,
    pieces.map(({ id }) => id),
    axisNames(graph),
    new Set(carries.keys()),
  );
  return pieces.map(({ id, join }) => {
    const flag = flags.get(id);
    if (!flag) return null;
    const { on, at } = flag;
    const dim = lit.size > 0 && !lit.has(join.link.id);
    return (
      <g key={id} aria-hidden className="pointer-events-none" opacity={dim ? 0.3 : 1}>
        {at !== on && <path d={`M${on.x} ${on.y} L${at.x} ${at.y}`} stroke={`var(--${familyToken(join.family)})`} strokeWidth={3} />}
        <rect
          x={at.x - FLAG.width / 2}
          y={at.y - FLAG.height / 2}
          width={FLAG.width}
          height={FLAG.height + (carries.has(id) ? FLAG_LINE : 0)}
          rx={2}
          fill={`var(--${familyToken(join.family)})`}
        />
        <g transform={`translate(${at.x - FLAG.width / 2 + 4} ${at.y - 9}) scale(0.75)`} className="text-ground">
          <PictogramShape name={FAMILY_MARKS[join.family] ?? "plug"} />
        </g>
        <text x={at.x + 11} y={at.y + 7} textAnchor="middle" fontSize={TYPE.flag} className="fill-ground font-bold">
          {join.tag}
        </text>
        {carries.has(id) && (
          <text x={at.x} y={at.y + 26} textAnchor="middle" fontSize={TYPE.flag} className="fill-ground font-bold">
            {carries.get(id)}
          </text>
        )}
      </g>
    );
  });
}
