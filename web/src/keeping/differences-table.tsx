import type { Difference } from "./differences";

/** Two versions side by side: what only one has, and how what both have stands in each. */
export function Differences({ found, mine, theirs }: { found: readonly Difference[]; mine: string; theirs: string }) {
  return (
    <table className="mt-3 w-full table-fixed border-collapse text-left">
      <thead>
        <tr className="border-b-2 border-edge">
          <th className="w-28 py-1 pr-2">Differs in</th>
          <th className="px-2">{mine}</th>
          <th className="px-2">{theirs}</th>
        </tr>
      </thead>
      <tbody>
        {found.map((one) => (
          <tr key={one.what} className="border-b border-edge align-top">
            <th className="py-1.5 pr-2 font-semibold">{one.what}</th>
            <td className="px-2 py-1.5">
              <Items only={one.mine} changed={one.changed.map((each) => [each.name, each.mine])} />
            </td>
            <td className="px-2 py-1.5">
              <Items only={one.theirs} changed={one.changed.map((each) => [each.name, each.theirs])} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Items({ only, changed }: { only: string[]; changed: [string, string][] }) {
  return (
    <ul className="[overflow-wrap:anywhere]">
      {only.map((item, number) => (
        <li key={`${item} ${number}`} className="font-semibold">
          {item}
        </li>
      ))}
      {changed.map(([name, how]) => (
        <li key={name}>
          {name}: <b>{how}</b>
        </li>
      ))}
    </ul>
  );
}
