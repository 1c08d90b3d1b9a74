import type { LogLine, Rig } from "../../../api/client";
import { Photos } from "../../../rig";
import { aboutOf, readOf, saysOf } from "../model";

const LOOKS: Record<string, string> = {
  done: "text-good",
  differs: "text-warn",
  spoilt: "text-warn",
  "battery-changed": "text-warn",
  restarted: "text-warn",
};

/** The lines of one day: when, at which rig, what, by whom; what was written; what was read; photos. */
export function Lines({ day, lines, rigs }: { day: string; lines: readonly LogLine[]; rigs: readonly Rig[] }) {
  return (
    <section>
      <h3 className="sticky top-0 bg-panel pt-2 pb-1 font-semibold">
        {new Date(`${day}T12:00`).toLocaleDateString([], { weekday: "long", day: "numeric", month: "long" })}
      </h3>
      <ol className="divide-y divide-edge">
        {lines.map((line) => (
          <li key={line.sequence} className="grid grid-cols-[3.5rem_2rem_minmax(0,1fr)] items-start gap-x-2 py-2 leading-snug">
            <time dateTime={line.at} className="tabular-nums text-soft">
              {new Date(line.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false })}
            </time>
            <b className="text-center" title={line.id}>
              {line.kind === "rig" ? (rigs.find(({ id }) => id === line.id)?.camera ?? "·") : "·"}
            </b>
            <div className="min-w-0 break-words">
              <b className={LOOKS[line.what] ?? ""}>{saysOf(line.what)}</b> {aboutOf(line)}
              {line.person && <span className="text-soft"> · {line.person}</span>}
              {line.text && <p className="whitespace-pre-line">{line.text}</p>}
              {readOf(line) && <p className="text-soft">{readOf(line)}</p>}
              {(line.photos ?? []).length > 0 && (
                <div className="mt-1 flex flex-wrap gap-2">
                  <Photos photos={line.photos ?? []} />
                </div>
              )}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}
