import { useMutation, useQueryClient } from "@tanstack/react-query";

import { Refusal, type Catalogue } from "../../../api/client";
import { catalogueQuery, Problems } from "../../../rig";
import { Button, Panel } from "../../../ui";
import { dropWords } from "../queries";

const TABLES = [
  ["connectors", "Connectors"],
  ["functions", "Functions"],
  ["kinds", "Kinds of device"],
] as const;

/** Connectors, functions and kinds of device that a pack brought, each pack with the way to let go of it. */
export function OwnWords({ words }: { words: Catalogue["words"] }) {
  const client = useQueryClient();
  const drop = useMutation({
    mutationFn: dropWords,
    onSuccess: () => client.invalidateQueries({ queryKey: catalogueQuery.queryKey }),
  });
  return (
    <Panel title="Words of your own" className="mt-3">
      <ul className="space-y-3">
        {words.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-3">
            <div className="min-w-0 flex-1">
              <b>{one.name}</b>
              {TABLES.map(([table, title]) => {
                const names = Object.values(one[table] ?? {}).map((word) => word.name);
                return names.length > 0 && <div key={table}>{`${title}: ${names.join(", ")}`}</div>;
              })}
            </div>
            <Button disabled={drop.isPending} onClick={() => drop.mutate(one.id)}>
              Take off
            </Button>
          </li>
        ))}
      </ul>
      {drop.error && <Problems refusal={drop.error instanceof Refusal ? drop.error : undefined} />}
    </Panel>
  );
}
