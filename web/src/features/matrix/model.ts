import type { Catalogue, Cell, Matrix, Rig, RigPromise } from "../../api/client";
import { freeId } from "../../rig";

type Verdict = Cell["verdict"];

/** Each verdict has a mark and a word of its own, so that colour is never needed. */
export const VERDICTS: Record<Verdict, { mark: string; word: string; colour: string }> = {
  yes: { mark: "✔", word: "yes", colour: "text-good" },
  condition: { mark: "◐", word: "at a price", colour: "text-warn" },
  no: { mark: "–", word: "no", colour: "text-soft" },
  "gave-up": { mark: "?", word: "not known", colour: "text-soft" },
};

/** The cell of a function and a surface. */
export function cellAt(matrix: Matrix, name: string, column: Matrix["columns"][number]): Cell | undefined {
  return matrix.cells.find((one) => one.function === name && one.device === column.device && one.surface === column.surface);
}

/** The devices above the columns, each with how many columns it spans. */
export function groupsOf(columns: Matrix["columns"][number][]): [string, number][] {
  const groups: [string, number][] = [];
  for (const column of columns) {
    const last = groups.at(-1);
    if (last?.[0] === column.device_name) last[1] += 1;
    else groups.push([column.device_name, 1]);
  }
  return groups;
}

/** The cell of `matrix` that stands where `cell` stood before the rig was changed. */
export function sameCell(matrix: Matrix, cell: Cell | undefined): Cell | undefined {
  return matrix.cells.find((one) => one.function === cell?.function && one.device === cell.device && one.surface === cell.surface);
}

/** The rows and columns that have anything but "no" in them. */
export function withAnything(matrix: Matrix): { functions: string[]; columns: Matrix["columns"][number][] } {
  const open = matrix.cells.filter((cell) => cell.verdict !== "no");
  return {
    functions: matrix.functions.filter((name) => open.some((cell) => cell.function === name)),
    columns: matrix.columns.filter((column) => open.some((cell) => cell.device === column.device && cell.surface === column.surface)),
  };
}

/** The devices that a matrix is asked of first: those that make a picture. */
export function bodiesOf(rig: Rig, catalogue: Catalogue | undefined): string[] {
  const kind = (profile: string) => catalogue?.profiles.find((one) => one.id === profile)?.like;
  const bodies = rig.devices.filter((device) => kind(device.profile) === "camera-body").map((device) => device.id);
  return bodies.length > 0 ? bodies : rig.devices.slice(0, 1).map((device) => device.id);
}

/** `rig` with what a cell offers promised to somebody. */
export function withCellPromised(rig: Rig, cell: Cell, who: string): Rig {
  const id = freeId(
    cell.function,
    rig.promises.map((promise) => promise.id),
  );
  const at = { device: cell.device, surface: cell.surface };
  const promise: RigPromise = { kind: "control", id, who, function: cell.function, at, to: null, weight: 3 };
  return { ...rig, promises: [...rig.promises, promise] };
}
