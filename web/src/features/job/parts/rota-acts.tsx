import { Button, Panel, Pictogram } from "../../../ui";
import { byClock, type Rota, type RotaAct } from "../rota";

type Ticks = { mayTick: boolean; onDone: (act: RotaAct) => void; onBack: (act: RotaAct) => void };

/** What is to be done when. From the time it is now what comes next stands first and large. */
export function RotaActs({ rota, ...ticks }: { rota: Rota } & Ticks) {
  const now = rota.now_min ?? -1;
  const times = byClock(rota.acts);
  const next = times.find((one) => one.at >= now && one.acts.some((act) => !act.changed));
  return (
    <Panel title="What to do when">
      {times.length === 0 && (
        <p className={rota.first_dark ? "text-bad" : ""}>
          {rota.first_dark
            ? "With these packs nothing can be done about it: see what it would take."
            : "Nothing: every battery lasts the day."}
        </p>
      )}
      <ol className="space-y-2">
        {times.map((time) => (
          <li
            key={time.at}
            className={`flex gap-3 border-t border-edge pt-2 ${time === next ? "border-l-8 border-l-lead pl-2" : ""}`}
            aria-current={time === next ? "step" : undefined}
          >
            <time className={`w-16 shrink-0 font-bold tabular-nums ${time === next ? "text-2xl" : "text-xl"}`}>{time.clock}</time>
            <ul className="min-w-0 flex-1 space-y-1">
              {time.acts.map((act) => (
                <Act key={`${act.kind} ${act.says}`} act={act} {...ticks} />
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </Panel>
  );
}

function Act({ act, mayTick, onDone, onBack }: { act: RotaAct } & Ticks) {
  const isChange = act.kind === "change";
  return (
    <li className="flex flex-wrap items-center gap-x-3">
      {isChange && <Pictogram name="battery" className="text-power" />}
      <span className={`min-w-0 flex-1 basis-40 ${isChange ? "font-semibold" : "text-soft"}`}>
        {act.says.replaceAll("-", "\u2011")}
        <span className={isChange ? "block text-sm font-normal text-soft" : "hidden"}>
          {[act.where, act.takes_min > 0 ? `${act.takes_min} min` : "", act.spoils ? "within a take" : ""].filter(Boolean).join(", ")}
        </span>
      </span>
      {isChange &&
        (act.changed ? (
          <Button weight="quiet" disabled={!mayTick} onClick={() => onBack(act)} aria-label={`Take back: ${act.says}`}>
            ✓ done
          </Button>
        ) : (
          <Button disabled={!mayTick} onClick={() => onDone(act)} aria-label={`Done: ${act.says}`}>
            Done
          </Button>
        ))}
    </li>
  );
}
