import type { Cell, Matrix } from "../../../api/client";
import { cellAt, groupsOf, VERDICTS } from "../model";

/** The matrix itself: big enough for gloves, its headings in sight while it scrolls. */
export function Grid({
  matrix,
  functions,
  columns,
  open,
  onOpen,
}: {
  matrix: Matrix;
  functions: string[];
  columns: Matrix["columns"][number][];
  open: Cell | undefined;
  onOpen: (cell: Cell) => void;
}) {
  return (
    <table className="border-separate border-spacing-1">
      <thead>
        <tr>
          <td />
          {groupsOf(columns).map(([device, span]) => (
            <th key={device} scope="colgroup" colSpan={span} className="border-b-2 border-edge px-1 text-left font-semibold">
              {device}
            </th>
          ))}
        </tr>
        <tr>
          <td />
          {columns.map((column) => (
            <th
              key={`${column.device} ${column.surface}`}
              scope="col"
              className="max-w-28 min-w-16 px-1 pb-1 text-left align-bottom text-sm leading-tight font-normal text-soft"
            >
              {column.surface_name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {functions.map((name) => (
          <tr key={name}>
            <th scope="row" className="max-w-28 pr-2 text-left leading-tight font-semibold">
              {matrix.names[name] ?? name}
            </th>
            {columns.map((column) => {
              const cell = cellAt(matrix, name, column);
              if (!cell) return <td key={`${column.device} ${column.surface}`} />;
              const look = VERDICTS[cell.verdict];
              return (
                <td key={`${column.device} ${column.surface}`}>
                  <button
                    type="button"
                    aria-pressed={cell === open}
                    aria-label={`${matrix.names[name] ?? name} from ${column.device_name}: ${column.surface_name}: ${look.word}`}
                    onClick={() => onOpen(cell)}
                    className={`flex min-h-12 w-full min-w-20 items-center justify-center gap-2 rounded border-2 px-2 leading-tight ${
                      (cell.promised ?? []).length ? "border-lead" : "border-transparent"
                    } ${cell === open ? "outline-3 outline-ink" : ""} ${cell.verdict === "no" ? "bg-ground" : "bg-raised"} ${look.colour}`}
                  >
                    <b aria-hidden className="text-xl">
                      {look.mark}
                    </b>
                    <span className={cell.verdict === "no" ? "sr-only" : "text-sm"}>{look.word}</span>
                  </button>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
