import { NumberField, Panel } from "../../../ui";
import { Calculations, useDraft } from "../../../rig";
import { figure, withMark, type Pole } from "../model";

/** The front part of a pole against its back part: drawn to scale, its front to the right, with the mark of the holder. */
export function PolePanel({ pole }: { pole: Pole }) {
  const { edit } = useDraft();
  return (
    <Panel title={`${pole.name}: front against back`}>
      <div className="flex items-center justify-between gap-3">
        <p className="leading-tight">
          {pole.says}
          {pole.assumed && <span className="block text-soft">{pole.assumed}</span>}
        </p>
        <p className="shrink-0 text-right leading-none">
          <span className={`text-4xl font-bold tabular-nums ${pole.beyond ? "text-bad" : ""}`}>{figure(pole.mark_mm)}</span>
          <span className="block pt-1 text-soft">mm behind the grip</span>
        </p>
      </div>
      <Drawn pole={pole} />
      {pole.beyond && (
        <p className="text-bad">
          <span aria-hidden>✕ </span>
          {pole.beyond}
        </p>
      )}
      {(pole.cures ?? []).map((cure) => (
        <p key={cure}>
          <span aria-hidden>▶ </span>
          {cure}
        </p>
      ))}
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <span className="flex items-center gap-2">
          It stands at
          <NumberField
            label={`Where the ${pole.holder} stands`}
            value={pole.now_mm}
            unit="mm"
            min={pole.from_mm}
            max={pole.to_mm}
            step={pole.step_mm}
            placeholder="?"
            onChange={(value) => edit((now) => withMark(now, pole.device, pole.slide, value))}
          />
        </span>
        <details className="open:basis-full">
          <summary className="flex min-h-11 cursor-pointer items-center text-soft">
            {pole.beyond ? "Why" : `± ${figure(pole.within_mm)} mm: why`}
          </summary>
          <dl>
            <Calculations of={[pole.why]} />
          </dl>
        </details>
      </div>
    </Panel>
  );
}

const HIGH = 142;
const WIDE = 420;

/** Both parts as discs as large as their weight asks for, the grip between them, the travel of the holder. */
function Drawn({ pole }: { pole: Pole }) {
  const margin = 48;
  const scale = (WIDE - 2 * margin) / (pole.front_mm + pole.to_mm);
  const at = (forward: number) => margin + (pole.to_mm + forward) * scale;
  const most = Math.max(pole.front_g, pole.back_g, 1);
  const size = (grams: number) => 6 + 36 * Math.sqrt(grams / most);
  const kg = (grams: number) => `${(grams / 1000).toFixed(2)} kg`;
  const y = 46;
  return (
    <svg
      role="img"
      aria-label={`${pole.name}: ${kg(pole.front_g)} in front, ${kg(pole.back_g)} at the back`}
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="my-2 w-full"
    >
      <line x1={at(pole.front_mm)} x2={at(-pole.to_mm)} y1={y} y2={y} className="stroke-mount" strokeWidth={6} />
      <rect x={at(-pole.to_mm)} y={y - 9} width={(pole.to_mm - pole.from_mm) * scale} height={18} rx={4} className="fill-edge" />
      <rect x={at(0) - 26} y={y - 12} width={52} height={24} rx={10} className="fill-raised stroke-ink" strokeWidth={3} />
      <circle cx={at(pole.front_mm)} cy={y} r={size(pole.front_g)} className="fill-soft" />
      <circle cx={at(-pole.mark_mm)} cy={y} r={size(pole.back_g)} className={pole.beyond ? "fill-bad" : "fill-lead"} />
      {pole.now_mm != null && <circle cx={at(-pole.now_mm)} cy={y} r={12} className="fill-none stroke-ink" strokeWidth={4} />}
      {[
        { x: at(pole.front_mm), says: ["front", kg(pole.front_g)] },
        { x: at(0), says: ["grip", ""] },
        { x: at(-pole.mark_mm), says: [pole.holder, kg(pole.back_g)] },
      ].map(({ x, says }) => (
        <text key={says[0]} x={x} y={y + 66} textAnchor="middle" fontSize={17} className="fill-ink">
          {says[0]}
          <tspan x={x} dy={20}>
            {says[1]}
          </tspan>
        </text>
      ))}
    </svg>
  );
}
