import { Button } from "../../ui";
import { OwnPart } from "./own-part";
import { partRows, withCount, withOwn, type PartItem } from "./model";

type Props = {
  parts: readonly PartItem[];
  known: Readonly<Record<string, string>>;
  label: string;
  most: number;
  onChange: (parts: PartItem[]) => void;
};

/** Every small part there could be, with how many there are; below it one that no list has is put in. */
export function PartList({ parts, known, label, most, onChange }: Props) {
  return (
    <>
      <ul aria-label={label}>
        {partRows(parts, known).map((row) => (
          <li key={row.part} className="flex items-center gap-2 border-b border-edge py-1 last:border-0">
            <span className={`min-w-0 flex-1 leading-tight ${row.count === 0 ? "text-soft" : ""}`}>
              {row.name}
              {row.made && <span className="block text-sm text-soft">of your own: {madeOf(row.made)}</span>}
            </span>
            {row.made && row.count === 0 && (
              <Button
                aria-label={`Take it off the list: ${row.name}`}
                onClick={() => onChange(parts.filter((one) => one.part !== row.part))}
              >
                Off the list
              </Button>
            )}
            <Button
              aria-label={`Take one out: ${row.name}`}
              disabled={row.count === 0}
              onClick={() => onChange(withCount(parts, row, row.count - 1))}
            >
              −
            </Button>
            <span className="w-8 text-center text-lg font-semibold tabular-nums">{row.count}</span>
            <Button
              aria-label={`Put one in: ${row.name}`}
              disabled={row.count >= most}
              onClick={() => onChange(withCount(parts, row, row.count + 1))}
            >
              +
            </Button>
          </li>
        ))}
      </ul>
      <OwnPart onMade={(made) => onChange(withOwn(parts, made, known))} />
    </>
  );
}

const madeOf = (made: NonNullable<PartItem["made"]>): string =>
  [made.kind, made.size, made.length_mm ? `${made.length_mm} mm` : "", `${made.mass_g} g`].filter(Boolean).join(", ");
