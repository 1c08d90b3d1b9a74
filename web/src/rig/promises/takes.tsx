import { useMutation, useQuery } from "@tanstack/react-query";

import { Refusal, type Change } from "../../api/client";
import { Button } from "../../ui";
import { Problems } from "../parts/problems";
import { Waiting } from "../searching";
import { useDraft } from "../use-draft";
import { changedRig, takesQuery } from "./queries";

const MARKS: Record<Change["kind"], string> = {
  cable: "get",
  adapter: "get",
  device: "bring",
  firmware: "load",
  licence: "load",
  drop: "give up",
};

const doing = (changes: readonly Change[]) => (changes.length === 1 ? `Plan with this: ${MARKS[changes[0]!.kind]}` : "Plan with these");

/** What it takes to keep a promise: the cheapest changes and the cheapest of another kind, each done with a tap. */
export function TakesOf({ promise }: { promise: string }) {
  const { rig, edit } = useDraft();
  const query = useQuery(takesQuery(rig, promise));
  const { data } = query;
  const make = useMutation({
    mutationFn: (changes: readonly Change[]) => changedRig(rig, changes),
    onSuccess: (changed) => edit(() => changed),
  });
  if (!data) return <Waiting name="takes" query={query} says="Looking through the catalogue" />;
  if ((data.takes ?? []).length === 0) return <p>{data.says}</p>;
  return (
    <ol className="space-y-2" aria-label="What it takes">
      {(data.takes ?? []).map((take, number) => (
        <li key={take.says} className="flex flex-wrap items-center gap-2 rounded-md border border-edge bg-ground px-3 py-2">
          <span className="min-w-0 flex-1">
            <span className="block text-sm text-soft">
              {number === 0 ? "The least that does it" : "Or, of another kind"}
              {take.proven ? "" : ", best found"}
            </span>
            <span className="font-semibold">{take.says}</span>
          </span>
          <Button
            weight={number === 0 ? "lead" : "plain"}
            disabled={make.isPending}
            aria-label={`${doing(take.changes)}. ${take.says}`}
            onClick={() => make.mutate(take.changes)}
          >
            {doing(take.changes)}
          </Button>
        </li>
      ))}
      {make.error && <Problems refusal={make.error instanceof Refusal ? make.error : undefined} />}
    </ol>
  );
}
