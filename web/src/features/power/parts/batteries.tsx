import { hours, type TreeBattery } from "../model";

/** Every battery with its hours as a bar, the first that is empty on top. Tapped, its curve is shown. */
export function Batteries({
  batteries,
  chosen,
  onChoose,
}: {
  batteries: readonly TreeBattery[];
  chosen: string;
  onChoose: (device: string) => void;
}) {
  const longest = Math.max(1, ...batteries.map((one) => one.hours_h ?? 0));
  return (
    <ul className="space-y-1">
      {batteries.map((one) => (
        <li key={one.device}>
          <button
            type="button"
            aria-pressed={one.device === chosen}
            onClick={() => onChoose(one.device)}
            className={`block w-full rounded-md px-2 py-1.5 text-left ${one.device === chosen ? "bg-raised shadow-[inset_5px_0_0_var(--lead)]" : "hover:bg-raised"}`}
          >
            <span className="flex items-baseline justify-between gap-2">
              <span className="truncate">
                {one.name} <span className="text-sm text-soft">{one.watts.toFixed(1)} W</span>
              </span>
              <span className={`text-lg font-bold whitespace-nowrap tabular-nums ${one.first ? "text-warn" : ""}`}>
                {one.first && "▲ "}
                {hours(one.hours_h)}
              </span>
            </span>
            <span className="mt-1 block h-2 rounded-sm bg-ground">
              <span
                className={`block h-2 rounded-sm ${one.first ? "bg-warn" : "bg-power"}`}
                style={{ width: `${(100 * (one.hours_h ?? 0)) / longest}%` }}
              />
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
