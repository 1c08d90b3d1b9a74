import { NumberField } from "../../../ui";
import { Calculations, useDraft } from "../../../rig";
import { along, figure, toDo, withMark, type Gimbal, type Mark } from "../model";

/** The scales in the order in which they are set: which way and how far, big; the scale below, with where it stands. */
export function Marks({ gimbal }: { gimbal: Gimbal }) {
  return (
    <ol className="space-y-3">
      {(gimbal.marks ?? []).map((mark, number) => (
        <li key={mark.slide} className="rounded-md bg-raised p-3">
          <Head mark={mark} number={number + 1} />
          <Scale mark={mark} />
          {mark.beyond && (
            <p className="mt-1 text-bad">
              <span aria-hidden>✕ </span>
              {mark.beyond}
            </p>
          )}
          <Foot gimbal={gimbal} mark={mark} />
        </li>
      ))}
    </ol>
  );
}

function Head({ mark, number }: { mark: Mark; number: number }) {
  const { big, small } = toDo(mark);
  return (
    <div className="flex items-center justify-between gap-3">
      <p>
        <span className="text-soft">
          {number}. {mark.axis}
        </span>
        <span className="block text-lg leading-tight font-bold">{mark.name}</span>
        {(mark.both || mark.by_mm != null) && <span className="block leading-tight">{mark.says}</span>}
      </p>
      <p className="shrink-0 text-right leading-none">
        <span
          className={`text-4xl font-bold tabular-nums ${mark.beyond ? "text-bad" : mark.way === null && mark.by_mm != null ? "text-good" : ""}`}
        >
          {big}
        </span>
        <span className="block pt-1 text-soft">{small}</span>
      </p>
    </div>
  );
}

/** The scale from end to end: a block for how well the mark is known, a wedge for it, a ring for where it stands. */
function Scale({ mark }: { mark: Mark }) {
  const at = (value: number) => 4 + 92 * along(mark, value);
  const span = mark.to_mm - mark.from_mm;
  const every = [5, 10, 20, 50].find((one) => span / one <= 8) ?? 100;
  const first = Math.ceil(mark.from_mm / every) * every;
  const ticks = Array.from({ length: Math.floor((mark.to_mm - first) / every) + 1 }, (_, number) => first + number * every);
  const [low, high] = [at(mark.mark_mm - mark.within_mm), at(mark.mark_mm + mark.within_mm)];
  return (
    <div aria-hidden className="relative mt-2 h-11">
      <span className="absolute top-2 h-3 rounded-sm bg-ground" style={{ left: "4%", width: "92%" }} />
      <span className="absolute top-2 h-3 rounded-sm bg-edge" style={{ left: `${low}%`, width: `${high - low}%` }} />
      {ticks.map((tick) => (
        <span key={tick} className="absolute top-5 -translate-x-1/2 text-[13px] text-soft tabular-nums" style={{ left: `${at(tick)}%` }}>
          {tick}
        </span>
      ))}
      <span className="absolute -top-1 h-6 w-1.5 -translate-x-1/2 rounded-sm bg-lead" style={{ left: `${at(mark.mark_mm)}%` }} />
      {mark.now_mm != null && (
        <span className="absolute top-1 size-5 -translate-x-1/2 rounded-full border-4 border-ink" style={{ left: `${at(mark.now_mm)}%` }} />
      )}
    </div>
  );
}

function Foot({ gimbal, mark }: { gimbal: Gimbal; mark: Mark }) {
  const { edit } = useDraft();
  return (
    <div className="flex flex-wrap items-center justify-between gap-x-4">
      <span className="flex items-center gap-2">
        It stands at
        <NumberField
          label={`Where the ${mark.name} stands`}
          value={mark.now_mm}
          unit="mm"
          min={mark.from_mm}
          max={mark.to_mm}
          step={mark.step_mm}
          placeholder="?"
          onChange={(value) => edit((now) => withMark(now, gimbal.gimbal, mark.slide, value))}
        />
      </span>
      <details className="open:basis-full">
        <summary className="flex min-h-11 cursor-pointer items-center text-soft">± {figure(mark.within_mm)} mm: why</summary>
        <dl>
          <Calculations of={[mark.why]} />
        </dl>
      </details>
    </div>
  );
}
