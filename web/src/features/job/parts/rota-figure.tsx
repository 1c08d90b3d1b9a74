import { useWidth } from "../../../ui";
import { clock, minutesFrom, type JobDay } from "../model";
import { busy, percent, powered, type Rota, type SeatRow } from "../rota";

const NARROW = 640;

type Place = (begins: number, ends: number) => { left: string; width: string };

/** The day from left to right: what is shot, when there is mains, what is in every battery, and which packs charge. */
export function RotaFigure({ rota, day }: { rota: Rota; day: JobDay }) {
  const [ref, room] = useWidth<HTMLDivElement>(900);
  const narrow = room < NARROW;
  const place: Place = (begins, ends) => ({
    left: `${(100 * begins) / rota.lasts_min}%`,
    width: `${(100 * (ends - begins)) / rota.lasts_min}%`,
  });
  return (
    <figure ref={ref} aria-label="The rota over the day" className="text-[14px]">
      <Row name="" narrow={narrow} tall="h-8">
        <Blocks day={day} place={place} />
      </Row>
      <Row name="Mains" narrow={narrow} tall="h-3">
        {powered(rota).map((one) => (
          <span key={one.begins} title="mains" className="absolute inset-y-0 rounded-sm bg-power" style={place(one.begins, one.ends)} />
        ))}
      </Row>
      {busy(rota).map((seat) => (
        <Row key={seat.key} name={`${seat.camera}, ${seat.name}`} narrow={narrow} tall="h-11">
          <Seat seat={seat} rota={rota} place={place} />
        </Row>
      ))}
      {rota.chargers
        .filter((one) => one.charges.length > 0)
        .map((charger) => (
          <Row key={charger.key} name={`Charger ${charger.key}`} narrow={narrow} tall="">
            <div className="relative" style={{ height: `${22 * lanes(charger.charges)}px` }}>
              {charger.charges.map((one) => (
                <span
                  key={`${one.pack} ${one.begins_min} ${one.lane}`}
                  title={`${one.pack}, to ${percent(one.ends_percent)}`}
                  className="absolute h-5 truncate rounded-sm border border-power bg-panel px-1 leading-[18px]"
                  style={{ ...place(one.begins_min, one.ends_min), top: `${22 * one.lane}px` }}
                >
                  {one.pack}
                </span>
              ))}
            </div>
          </Row>
        ))}
      <Row name="" narrow={narrow} tall="h-6">
        <Hours rota={rota} room={narrow ? room : room - 176} />
      </Row>
    </figure>
  );
}

const lanes = (charges: Rota["chargers"][number]["charges"]) => 1 + Math.max(...charges.map((one) => one.lane));

function Row({ name, narrow, tall, children }: { name: string; narrow: boolean; tall: string; children: React.ReactNode }) {
  return (
    <div className={narrow ? "border-t border-edge/60 pt-0.5" : "flex items-center border-t border-edge/60 py-0.5"}>
      {(name || !narrow) && <span className={narrow ? "block text-soft" : "w-44 shrink-0 pr-2 leading-tight"}>{name}</span>}
      <div className={`relative min-w-0 flex-1 ${tall}`}>{children}</div>
    </div>
  );
}

function Blocks({ day, place }: { day: JobDay; place: Place }) {
  const call = day.call!;
  const from = (time: string) => minutesFrom(call, time);
  return (
    <>
      {(day.meals ?? []).map((meal) => (
        <span
          key={meal.begins}
          className="absolute inset-y-0 truncate text-center leading-8 text-soft italic"
          style={place(from(meal.begins), from(meal.ends))}
        >
          meal
        </span>
      ))}
      {(day.blocks ?? []).map((block) => (
        <span
          key={`${block.begins} ${block.name}`}
          title={block.name}
          className="absolute inset-y-0 truncate rounded-sm border-l-4 border-lead bg-raised px-1 leading-8 font-semibold"
          style={place(from(block.begins), from(block.ends))}
        >
          {block.name}
        </span>
      ))}
      {(day.blocks ?? []).flatMap((block) =>
        (block.pauses ?? []).map((pause) => (
          <span
            key={pause.begins}
            title="pause"
            className="absolute bottom-0 h-1.5 bg-good"
            style={place(from(pause.begins), from(pause.ends))}
          />
        )),
      )}
    </>
  );
}

/** What is in the packs of a seat, each with its mark; dark where there is none. */
function Seat({ seat, rota, place }: { seat: SeatRow; rota: Rota; place: Place }) {
  const spoilt = new Set(
    rota.acts.filter((one) => one.spoils && one.rig === seat.rig && one.device === seat.device).map((one) => one.at_min),
  );
  return (
    <>
      {seat.stints.map((stint) => {
        const lasts = Math.max(1, stint.ends_min - stint.begins_min);
        const levels = seat.levels.filter((one) => one.at_min >= stint.begins_min && one.at_min <= stint.ends_min);
        const points = levels.map((one) => `${(100 * (one.at_min - stint.begins_min)) / lasts},${100 - one.percent}`).join(" ");
        return (
          <span
            key={stint.begins_min}
            title={`${stint.pack}: ${percent(stint.begins_percent)} to ${percent(stint.ends_percent)}`}
            className={`absolute inset-y-0 overflow-hidden border-l-4 ${spoilt.has(stint.begins_min) ? "border-roll" : "border-power"}`}
            style={place(stint.begins_min, stint.ends_min)}
          >
            <svg viewBox="0 0 100 100" preserveAspectRatio="none" className="absolute inset-0 h-full w-full" aria-hidden>
              <polygon points={`0,100 ${points} 100,100`} className="fill-power opacity-35" />
            </svg>
            <span className="relative block truncate px-1 leading-5 font-semibold">
              {stint.pack === `${seat.name}'s own` ? "its own" : stint.pack}
            </span>
            <span className="relative block truncate px-1 leading-4 text-soft tabular-nums">→ {percent(stint.ends_percent)}</span>
          </span>
        );
      })}
      {seat.dark.map((one) => (
        <span
          key={one.begins_min}
          className="absolute inset-y-0 truncate border-2 border-bad bg-ground px-1 leading-9 font-bold text-bad"
          style={place(one.begins_min, one.ends_min)}
        >
          dark
        </span>
      ))}
      {rota.now_min != null && <span className="absolute -inset-y-1 w-1 bg-ink" style={{ left: place(rota.now_min, rota.now_min).left }} />}
    </>
  );
}

function Hours({ rota, room }: { rota: Rota; room: number }) {
  const hours = Array.from({ length: Math.floor(rota.lasts_min / 60) + 1 }, (_, hour) => 60 * hour);
  const every = Math.max(1, Math.ceil((52 * hours.length) / room));
  return (
    <>
      {hours
        .filter((_, at) => at % every === 0)
        .map((minutes) => (
          <span
            key={minutes}
            className={`absolute pt-1 text-soft tabular-nums ${minutes === 0 ? "" : minutes > rota.lasts_min - 30 ? "-translate-x-full" : "-translate-x-1/2"}`}
            style={{ left: `${(100 * minutes) / rota.lasts_min}%` }}
          >
            {clock(rota.call, minutes)}
          </span>
        ))}
    </>
  );
}
