import type { Schemas } from "../../api/client";

/** Numbers, each with the way in which it was come by: every "why" of a number is told by this. */
export function Calculations({ of }: { of: readonly Schemas["Calculation"][] }) {
  return of.map(({ name, value, why, also }) => (
    <div key={name}>
      <dt className="inline">{name}: </dt>
      <dd className="inline font-bold tabular-nums">{value}</dd>
      <dd className="text-sm text-soft tabular-nums">{why}</dd>
      {(also ?? []).map((one) => (
        <dd key={one} className="text-sm text-soft tabular-nums">
          {one}
        </dd>
      ))}
    </div>
  ));
}
