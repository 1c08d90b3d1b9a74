import type { Schemas } from "../../../api/client";
import { Panel } from "../../../ui";

/** What is left to each motor at the marks, against what may be: a bar, and a line across it for the tolerance. */
export function Axes({ axes }: { axes: readonly Schemas["AxisRow"][] }) {
  return (
    <Panel title="Left to the motors at these marks">
      <ul className="space-y-2">
        {axes.map((one) => {
          const most = Math.max(one.allowed_nm * 2, one.left_nm);
          return (
            <li key={one.axis}>
              <span className="flex justify-between gap-3">
                <span>
                  <span aria-hidden className={one.holds ? "text-good" : "text-bad"}>
                    {one.holds ? "✓ " : "✕ "}
                  </span>
                  {one.says}
                </span>
                <span className="whitespace-nowrap text-soft tabular-nums">at most {one.allowed_nm.toFixed(2)}</span>
              </span>
              <span aria-hidden className="relative mt-1 block h-3 rounded-sm bg-ground">
                <span
                  className={`block h-3 rounded-sm ${one.holds ? "bg-good" : "bg-bad"}`}
                  style={{ width: `${Math.max(1, (100 * one.left_nm) / most)}%` }}
                />
                <span className="absolute top-0 h-3 w-0.5 bg-ink" style={{ left: `${(100 * one.allowed_nm) / most}%` }} />
              </span>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}

/** A panel of sentences; nothing where there are none. */
export function Lines({ title, mark, of }: { title: string; mark: string; of: readonly string[] }) {
  if (of.length === 0) return null;
  return (
    <Panel title={title}>
      <Said mark={mark} of={of} />
    </Panel>
  );
}

/** Sentences, each after a mark. */
export function Said({ mark, of }: { mark: string; of: readonly string[] }) {
  return (
    <ul className="space-y-2">
      {of.map((says) => (
        <li key={says} className="flex gap-3">
          <span aria-hidden className="text-soft">
            {mark}
          </span>
          {says}
        </li>
      ))}
    </ul>
  );
}
