import type { Rig } from "../../../api/client";
import { useWidth } from "../../../ui";
import { clock, minutesFrom, type JobDay } from "../model";

const LOOKS: Record<string, string> = {
  rolling: "border border-roll bg-roll/30 h-9",
  standby: "bg-lead h-5",
  moving: "bg-mount h-5 [background-image:repeating-linear-gradient(45deg,transparent_0_6px,var(--panel)_6px_9px)]",
  off: "border border-edge h-2",
};

/** A day from call to wrap: a row for each rig, its blocks by how it is used, meals across all of them. */
export function Timeline({ day, rigs }: { day: JobDay; rigs: readonly Rig[] }) {
  const [ref, room] = useWidth<HTMLDivElement>(900);
  if (!day.call || !day.wrap) return <p className="mt-3 text-soft">Say when the call and the wrap are: then the day is drawn here.</p>;
  const call = day.call;
  const lasts = Math.max(1, minutesFrom(call, day.wrap));
  const left = (time: string) => `${(100 * minutesFrom(call, time)) / lasts}%`;
  const width = (begins: string, ends: string) => `${(100 * (minutesFrom(call, ends) - minutesFrom(call, begins))) / lasts}%`;
  const hours = Array.from({ length: Math.floor(lasts / 60) + 1 }, (_, hour) => 60 * hour);
  // Each time of day needs some sixty pixels to be read.
  const every = Math.max(1, Math.ceil((60 * hours.length) / room));
  return (
    <figure className="mt-4" aria-label={`The day from ${call} to ${day.wrap}`}>
      <div ref={ref} className="relative ml-10">
        {(day.meals ?? []).map((meal) => (
          <span
            key={meal.begins}
            className="absolute inset-y-0 overflow-hidden border-x border-edge bg-raised text-center text-[13px] text-soft"
            style={{ left: left(meal.begins), width: width(meal.begins, meal.ends) }}
          >
            meal
          </span>
        ))}
        <Names day={day} left={left} width={width} />
        {rigs.map((rig) => (
          <div key={rig.id} className="relative h-12 border-t border-edge">
            <span className="absolute -left-10 flex h-12 w-8 items-center justify-center font-bold">{rig.camera}</span>
            {(day.blocks ?? []).flatMap((block) =>
              (block.rigs ?? [])
                .filter((one) => one.rig === rig.id)
                .map((one) => (
                  <span
                    key={`${block.begins}-${one.rig}`}
                    title={`${block.name}: ${one.use}`}
                    className={`absolute bottom-1 rounded-sm px-1 text-[13px] leading-5 ${LOOKS[one.use ?? "rolling"]} ${one.use === "off" || one.use === "moving" ? "text-transparent" : one.use === "rolling" ? "text-ink" : "text-on-lead"}`}
                    style={{ left: left(block.begins), width: width(block.begins, block.ends) }}
                  >
                    <span className="block truncate">{one.use === "rolling" ? `● ${one.rolling_percent ?? 30} %` : one.use}</span>
                  </span>
                )),
            )}
          </div>
        ))}
        <div className="relative h-7 border-t border-edge text-[14px] text-soft tabular-nums">
          {hours
            .filter((_, at) => at % every === 0)
            .map((minutes) => (
              <span
                key={minutes}
                className={`absolute pt-1 ${minutes === lasts ? "-translate-x-full" : "-translate-x-1/2"}`}
                style={{ left: `${(100 * minutes) / lasts}%` }}
              >
                {clock(call, minutes)}
              </span>
            ))}
        </div>
      </div>
    </figure>
  );
}

function Names({ day, left, width }: { day: JobDay; left: (time: string) => string; width: (begins: string, ends: string) => string }) {
  return (
    <div className="relative h-7">
      {(day.blocks ?? []).map((block) => (
        <span
          key={block.begins}
          className="absolute truncate border-l-2 border-edge pl-1 text-sm font-semibold"
          style={{ left: left(block.begins), width: width(block.begins, block.ends) }}
        >
          {block.name}
        </span>
      ))}
    </div>
  );
}
