import { useMutation, useQuery } from "@tanstack/react-query";

import { Refusal, type Change, type Takes } from "../../api/client";
import { Button } from "../../ui";
import { Problems } from "../parts/problems";
import { Waiting } from "../searching";
import { useDraft } from "../use-draft";
import { changedRig, takesQuery } from "./queries";
import { oftenOf, TakeIt } from "./recipes";

type Take = NonNullable<Takes["takes"]>[number];

const MARKS: Record<Change["kind"], string> = {
  cable: "get",
  adapter: "get",
  part: "get",
  device: "bring",
  firmware: "load",
  licence: "load",
  charge: "charge",
  spare: "bring",
  changes: "allow",
  drop: "give up",
};

const doing = (changes: readonly Change[]) => (changes.length === 1 ? `Plan with this: ${MARKS[changes[0]!.kind]}` : "Plan with these");

/** What it takes to keep a promise: the cheapest changes, the cheapest of another kind, and recipes that may do it. */
export function TakesOf({ promise }: { promise: string }) {
  const { rig } = useDraft();
  const query = useQuery(takesQuery(rig, promise));
  const { data } = query;
  if (!data) return <Waiting name="takes" query={query} says="Looking through the catalogue" />;
  return (
    <>
      {(data.takes ?? []).length === 0 && <p>{data.says}</p>}
      {(data.takes ?? []).length > 0 && <Surely takes={data.takes ?? []} />}
      {/* What may be done with the rig as it is stands below, with or without this question. */}
      {(data.maybe ?? [])
        .filter((offer) => offer.brings?.length)
        .map((offer) => (
          <div key={offer.recipe} className="mt-2 rounded-md border border-edge bg-ground px-3 py-2">
            <span className="block text-sm text-soft">Or maybe, by a recipe</span>
            <span className="font-semibold">{offer.name}</span>
            <p>{oftenOf(offer)}</p>
            <TakeIt offer={offer} />
          </div>
        ))}
    </>
  );
}

/** The changes with which it holds for certain. */
function Surely({ takes }: { takes: readonly Take[] }) {
  const { rig, edit } = useDraft();
  const make = useMutation({
    mutationFn: (changes: readonly Change[]) => changedRig(rig, changes),
    onSuccess: (changed) => edit(() => changed),
  });
  return (
    <ol className="space-y-2" aria-label="What it takes">
      {takes.map((take, number) => (
        <li key={take.says} className="flex flex-wrap items-center gap-2 rounded-md border border-edge bg-ground px-3 py-2">
          <span className="min-w-0 flex-1">
            <span className="block text-sm text-soft">
              {number === 0 ? "The least that does it" : "Or, of another kind"}
              {take.proven ? "" : ", best found"}
            </span>
            <span className="font-semibold">{take.says}</span>
            {(take.balance ?? []).map((says) => (
              <span key={says} className="block text-soft">
                {says}
              </span>
            ))}
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
