import type { Outline } from "../../api/client";
import { cornersOf } from "./model";

const LOOKS = { shell: "fill-panel stroke-ink", contact: "fill-ink", key: "fill-soft" } as const;

/** What is drawn of a connector, in millimetres around its middle. */
export function Shapes({ shapes }: { shapes: Outline["shapes"] }) {
  return shapes.map((shape, number) =>
    shape.kind === "round" ? (
      <circle
        key={number}
        cx={shape.at[0]}
        cy={shape.at[1]}
        r={shape.radius_mm}
        className={LOOKS[shape.part]}
        strokeWidth={1.6}
        vectorEffect="non-scaling-stroke"
      />
    ) : (
      <path
        key={number}
        d={cornersOf(shape)}
        className={LOOKS[shape.part]}
        strokeWidth={1.6}
        strokeLinejoin="round"
        vectorEffect="non-scaling-stroke"
      />
    ),
  );
}

/** Pixels to a millimetre of a plug by itself: about life size on a laptop's screen. */
const LIFE = 3.8;
const MOST = 72;

/** A plug by its outline; all on a screen to one scale, but for what is larger than a thumb. */
export function Plug({ outline, name, turned = 0 }: { outline: Outline; name: string; turned?: number }) {
  const shapes = outline.seen_aside.length > 0 ? outline.seen_aside : outline.shapes;
  const [wide, high] = outline.seen_aside.length > 0 ? [14, outline.height_mm] : [outline.width_mm, outline.height_mm];
  const scale = Math.min(LIFE, MOST / Math.max(wide, high));
  const upright = turned % 180 !== 0;
  const [width, height] = [(upright ? high : wide) * scale + 6, (upright ? wide : high) * scale + 6];
  return (
    <svg
      width={width}
      height={height}
      viewBox={`${-width / 2} ${-height / 2} ${width} ${height}`}
      role="img"
      aria-label={name}
      className="shrink-0"
    >
      <g transform={`rotate(${turned}) scale(${scale})`}>
        <Shapes shapes={shapes} />
      </g>
    </svg>
  );
}
