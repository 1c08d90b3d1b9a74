import { useQuery } from "@tanstack/react-query";

import { useAnswer } from "../use-answer";
import { plugsQuery } from "../queries";
import { Plug } from "./outline";

/** The plugs of a cable side by side: which of these lies in your hand? */
export function CablePlugs({ cable }: { cable: string }) {
  const { catalogue } = useAnswer();
  const { data: plugs } = useQuery(plugsQuery);
  const found = catalogue?.cables.find(({ id }) => id === cable);
  if (!found || !plugs) return null;
  return (
    <span className="flex shrink-0 items-center gap-1 text-soft">
      {found.connectors.map((connector, number) => (
        <span key={number} className="flex items-center gap-1">
          {number > 0 && <span aria-hidden>–</span>}
          <Plug outline={plugs.outlines[connector] ?? plugs.unknown} name={found.ends[number] ?? connector} />
        </span>
      ))}
    </span>
  );
}
