import { hours, rated, ticks, volts, type TreeBattery } from "../model";

const SIZE = { width: 520, height: 240 };
const EDGE = { left: 54, right: 14, top: 12, bottom: 34 };

/** How a battery empties: its volts over the hours, to what is kept back, with its lamp and what hangs on it at least needs. */
export function Curve({ battery, lowest }: { battery: TreeBattery; lowest: number | undefined }) {
  const points = battery.curve;
  const lasts = points.at(-1)?.hours_h ?? 0;
  if (points.length < 2 || lasts === 0) return <p className="text-soft">{battery.stops ?? "Nothing draws on it."}</p>;
  if (!battery.volts_known)
    return <p className="text-soft">Nobody said how many cells it has: {hours(battery.hours_h)} by its watt hours.</p>;
  const all = points.map((one) => one.volts);
  // Room below the last point for what is left then.
  const least = Math.min(...all, lowest ?? Infinity) - Math.max(0.2, 0.25 * (Math.max(...all) - Math.min(...all)));
  const most = Math.max(...all) + 0.2;
  const x = (hour: number) => EDGE.left + ((SIZE.width - EDGE.left - EDGE.right) * hour) / lasts;
  const y = (volt: number) => EDGE.top + ((SIZE.height - EDGE.top - EDGE.bottom) * (most - volt)) / (most - least);
  const line = points.map((one) => `${x(one.hours_h)},${y(one.volts)}`).join(" ");
  const floor = SIZE.height - EDGE.bottom;
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full max-w-3xl"
      role="img"
      aria-label={`${battery.name}: ${volts(all[0])} now, ${volts(all.at(-1))} after ${hours(lasts)}`}
    >
      <Axes lasts={lasts} least={least} most={most} x={x} y={y} />
      <polygon points={`${x(0)},${floor} ${line} ${x(lasts)},${floor}`} className="fill-power opacity-25" />
      <polyline points={line} className="fill-none stroke-power" strokeWidth={4} strokeLinejoin="round" />
      {lowest !== undefined && (
        <g>
          <path d={`M${EDGE.left} ${y(lowest)} H${SIZE.width - EDGE.right}`} className="stroke-bad" strokeWidth={2} strokeDasharray="8 5" />
          <text x={EDGE.left + 6} y={y(lowest) - 6} className="fill-bad text-[15px]">
            dark below {rated(lowest)}
          </text>
        </g>
      )}
      {battery.lamp_h != null && (
        <g>
          <path d={`M${x(battery.lamp_h)} ${EDGE.top} V${floor}`} className="stroke-warn" strokeWidth={2} strokeDasharray="3 4" />
          <text x={x(battery.lamp_h) - 6} y={EDGE.top + 14} textAnchor="end" className="fill-warn text-[15px]">
            lamp: {battery.lamp_left_min?.toFixed(0)} min left
          </text>
        </g>
      )}
      <circle cx={x(lasts)} cy={y(all.at(-1)!)} r={6} className="fill-power" />
      <text x={x(lasts) - 8} y={y(all.at(-1)!) + 24} textAnchor="end" className="fill-ink text-[17px] font-bold">
        {volts(all.at(-1))}, {Math.round(points.at(-1)!.percent)} % left
      </text>
    </svg>
  );
}

function Axes({
  lasts,
  least,
  most,
  x,
  y,
}: {
  lasts: number;
  least: number;
  most: number;
  x: (hour: number) => number;
  y: (volt: number) => number;
}) {
  return (
    <g className="fill-soft text-[14px] tabular-nums">
      {ticks(least, most, 4).map((volt) => (
        <g key={volt}>
          <path d={`M${EDGE.left} ${y(volt)} H${SIZE.width - EDGE.right}`} className="stroke-edge" strokeWidth={1} opacity={0.5} />
          <text x={EDGE.left - 8} y={y(volt) + 5} textAnchor="end">
            {volt} V
          </text>
        </g>
      ))}
      {ticks(0, lasts).map((hour) => (
        <text key={hour} x={x(hour)} y={SIZE.height - 10} textAnchor="middle">
          {hour === 0 ? "now" : `${hour} h`}
        </text>
      ))}
    </g>
  );
}
