import { useState } from "react";

import { Button } from "../../../ui";
import { frameOf, type Gimbal, isCarried, type Item, outline, seen, type View, VIEWS } from "../model";

type Shown = { gimbal: Gimbal; chosen: string | undefined; onChoose: (key: string) => void };

/** All that the gimbal carries, to scale, with where the weight of each sits, the axes, and the centre of it all. */
export function Picture({ gimbal, chosen, onChoose }: Shown) {
  const [view, setView] = useState<View>("side");
  return (
    <>
      <div role="group" aria-label="Looked at from where" className="mb-2 flex flex-wrap gap-1">
        {VIEWS.map((one) => (
          <Button
            key={one.view}
            weight={one.view === view ? "lead" : "plain"}
            aria-pressed={one.view === view}
            onClick={() => setView(one.view)}
          >
            {one.name}
          </Button>
        ))}
      </div>
      <Drawn gimbal={gimbal} view={view} chosen={chosen} onChoose={onChoose} />
    </>
  );
}

function Drawn({ gimbal, view, chosen, onChoose }: Shown & { view: View }) {
  const items = gimbal.items ?? [];
  const leads = gimbal.leads ?? [];
  const frame = frameOf(
    items,
    view,
    leads.flatMap((lead) => lead.through),
  );
  const boxes = items.filter((one) => one.size.right > 0);
  const weights = items.filter((one) => one.how !== "lead");
  const most = Math.max(...weights.map((one) => one.mass_g), 1);
  const [cx, cy] = seen(view, gimbal.centre ?? { right: 0, forward: 0, up: 0 });
  const unit = Math.max(frame.width, frame.height * 1.25) / 100;
  return (
    <svg
      role="group"
      aria-label={`${gimbal.name}, drawn to scale`}
      viewBox={`${frame.left} ${frame.top} ${frame.width} ${frame.height}`}
      className="max-h-[44vh] w-full"
    >
      <Axes view={view} pan={gimbal.pan_forward_mm ?? 0} frame={frame} unit={unit} />
      {boxes.map((item) => (
        <Outline key={item.key} item={item} view={view} unit={unit} isChosen={item.key === chosen} onChoose={onChoose} />
      ))}
      {leads.map((lead) => (
        <Led key={lead.tag} lead={lead} view={view} unit={unit} />
      ))}
      {weights.map((item) => {
        const [x, y] = seen(view, item.centre);
        const r = unit * (0.5 + 2 * Math.sqrt(item.mass_g / most));
        return (
          <circle
            key={item.key}
            cx={x}
            cy={y}
            r={r}
            className={`pointer-events-none ${item.key === chosen ? "fill-lead" : isCarried(item) ? "fill-soft" : "fill-mount"}`}
            opacity={0.8}
          />
        );
      })}
      <Names view={view} pan={gimbal.pan_forward_mm ?? 0} frame={frame} unit={unit} />
      <g className="pointer-events-none stroke-good" strokeWidth={unit * 0.7} fill="none">
        <circle cx={cx} cy={cy} r={unit * 3} />
        <path d={`M${cx - unit * 4.4} ${cy}h${unit * 8.8}M${cx} ${cy - unit * 4.4}v${unit * 8.8}`} />
      </g>
    </svg>
  );
}

type Around = { view: View; pan: number; frame: ReturnType<typeof frameOf>; unit: number };

/** The axes that are seen as lines: the one that lies, and the one that stands and where. */
function linesOf(view: View, pan: number): { lying: string; standing: string; at: number } {
  if (view === "side") return { lying: "roll", standing: "pan", at: pan };
  return view === "back" ? { lying: "tilt", standing: "pan", at: 0 } : { lying: "tilt", standing: "roll", at: 0 };
}

function Axes({ view, pan, frame, unit }: Around) {
  const { left, top, width, height } = frame;
  const { at } = linesOf(view, pan);
  return (
    <path
      d={`M${left} 0h${width}M${at} ${top}v${height}`}
      className="stroke-edge"
      strokeWidth={unit * 0.4}
      strokeDasharray={`${unit * 3} ${unit * 1.5}`}
      fill="none"
    />
  );
}

/** What the lines are called, and where the front is: over everything, so that nothing hides it. */
function Names({ view, pan, frame, unit }: Around) {
  const { left, top, width, height } = frame;
  const { lying, standing, at } = linesOf(view, pan);
  const halo = { paintOrder: "stroke", strokeWidth: unit * 0.8, fontSize: unit * 3.4 } as const;
  return (
    <g className="pointer-events-none fill-ink stroke-panel" style={halo} strokeLinejoin="round">
      <text x={left} y={-unit}>
        {lying} axis
      </text>
      <text x={at + unit} y={top + unit * 3.4}>
        {standing} axis
      </text>
      {view === "side" && (
        <text x={left + width - unit} y={top + height - unit} textAnchor="end">
          front ▶
        </text>
      )}
      {view === "top" && (
        <text x={unit} y={top + unit * 8}>
          ▲ front
        </text>
      )}
    </g>
  );
}

/** A lead that crosses axes: its way, a knot where it is tied, its flag at the end that hangs out; broken where it is too short to be tied. */
function Led({ lead, view, unit }: { lead: Gimbal["leads"][number]; view: View; unit: number }) {
  const way = (lead.is_tied ? lead.through : [lead.through[0]!, lead.through.at(-1)!]).map((at) => seen(view, at));
  const [x, y] = way.at(-1)!;
  return (
    <g className="pointer-events-none fill-none stroke-control" strokeWidth={unit * 0.8} strokeLinejoin="round">
      <path d={`M${way.map((at) => at.join(" ")).join("L")}`} strokeDasharray={lead.is_tied ? undefined : `${unit * 2} ${unit * 1.5}`} />
      {lead.is_tied &&
        lead.ties.map((at, number) => {
          const [tx, ty] = seen(view, at);
          return (
            <rect key={number} x={tx - unit * 1.2} y={ty - unit * 1.2} width={unit * 2.4} height={unit * 2.4} className="fill-panel" />
          );
        })}
      <text
        x={x + unit}
        y={y + unit * 4}
        className="fill-ink stroke-panel"
        style={{ paintOrder: "stroke", strokeWidth: unit * 0.8, fontSize: unit * 3.4 }}
      >
        {lead.tag}
      </text>
    </g>
  );
}

type One = { item: Item; view: View; unit: number; isChosen: boolean; onChoose: (key: string) => void };

function Outline({ item, view, unit, isChosen, onChoose }: One) {
  const [x, y] = seen(view, item.middle);
  const [w, h] = outline(view, item.size);
  return (
    <rect
      x={x - w / 2}
      y={y - h / 2}
      width={w}
      height={h}
      rx={unit}
      role="button"
      tabIndex={0}
      aria-label={`${item.name}, ${Math.round(item.mass_g)} g`}
      aria-pressed={isChosen}
      onClick={() => onChoose(item.key)}
      onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && (event.preventDefault(), onChoose(item.key))}
      className={`cursor-pointer fill-raised ${isChosen ? "stroke-lead" : item.how === "assumed" ? "stroke-warn" : "stroke-edge"}`}
      fillOpacity={0.7}
      strokeWidth={unit * (isChosen ? 1 : 0.5)}
      strokeDasharray={item.how === "assumed" ? `${unit * 1.5} ${unit}` : undefined}
    />
  );
}
