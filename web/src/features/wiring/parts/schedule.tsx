import type { Drawing } from "../../../api/client";
import { Flag, Pictogram } from "../../../ui";
import { FAMILY_MARKS, PATTERNS } from "../model";

type Row = Drawing["schedule"][number];

/** The cable schedule: what goes where, by flag, with the look-alike ports to keep out of. */
export function Schedule({ rows, lit, onTap }: { rows: readonly Row[]; lit: Set<string>; onTap: (link: string) => void }) {
  return (
    <ul className="space-y-2">
      {rows.map((row) => (
        <li key={row.link}>
          <button
            type="button"
            onClick={() => onTap(row.link)}
            className={`w-full rounded-md border-2 bg-raised p-3 text-left leading-snug ${lit.has(row.link) ? "border-lead" : "border-transparent"}`}
          >
            <span className="flex items-center gap-2">
              <Flag tag={row.tag} family={row.family} />
              <Pictogram name={FAMILY_MARKS[row.family] ?? "plug"} className="text-soft" />
              <span className="font-semibold">
                {row.family === "mount" || row.family === "radio" ? (PATTERNS[row.family]?.word ?? "") : row.item}
              </span>
            </span>
            <span className="mt-1 block">{row.from_words}</span>
            <span className="block">{row.to_words}</span>
            {(row.crosses ?? []).map((words) => (
              <span key={words} className="block text-sm text-soft">
                {words}
              </span>
            ))}
            {row.avoid.map((words) => (
              <span key={words} className="mt-1 block font-semibold text-warn">
                <span aria-hidden>▲ </span>Look-alike. {words}
              </span>
            ))}
          </button>
        </li>
      ))}
    </ul>
  );
}
