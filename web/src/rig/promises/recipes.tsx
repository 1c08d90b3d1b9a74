import { useMutation, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { Refusal, type Schemas } from "../../api/client";
import { Button } from "../../ui";
import { Problems } from "../parts/problems";
import { offersQuery } from "../queries";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { recipeOf, withRecipe } from "./queries";

export type Offer = Schemas["Offer"];

/** What somebody found to work in a case like this, how often; never as a sure thing. */
export function Recipes({ promise }: { promise: string }) {
  const { rig } = useDraft();
  const { isPlanning } = useAnswer();
  const { data } = useQuery({ ...offersQuery(rig), enabled: !isPlanning });
  const taken = (rig.recipes ?? []).find((one) => one.promise === promise);
  const offered = (data ?? []).filter((one) => one.promise === promise && one.recipe !== taken?.recipe.id);
  if (!taken && offered.length === 0) return null;
  return (
    <section aria-label="Recipes" className="mt-3 rounded-md border-l-8 border-lead bg-raised px-3 py-2 leading-snug">
      {taken && <Taken promise={promise} />}
      {offered.length > 0 && (
        <h3 className="font-semibold">
          {taken
            ? "Another recipe may do it:"
            : offered[0]?.why === "no way"
              ? "No way of its own. A recipe may do it:"
              : "Its way rests on what nobody looked at. A recipe may do it:"}
        </h3>
      )}
      {offered.map((one) => (
        <div key={one.recipe} className="py-1">
          <Link to={`/recipes?carry=${one.recipe}&rig=${rig.id}`} className="inline-flex min-h-11 items-center font-semibold underline">
            {one.name}
          </Link>
          <p>{oftenOf(one)}</p>
          <Differs says={one.differs ?? []} />
          <TakeIt offer={one} />
        </div>
      ))}
    </section>
  );
}

/** How often it worked, and what that may well mean. */
export const oftenOf = ({ rate }: Offer) =>
  rate.tries === 0
    ? "Never tried yet."
    : `It worked ${rate.worked} of ${rate.tries} times: by that, ${Math.round(rate.low * 100)} to ${Math.round(rate.high * 100)} in 100.`;

/** Let a promise rest on a recipe: its steps come into the run sheet, and it stays a maybe. */
export function TakeIt({ offer }: { offer: Offer }) {
  const { rig, edit } = useDraft();
  const take = useMutation({
    mutationFn: () => recipeOf(offer.recipe),
    onSuccess: (recipe) => edit((now) => withRecipe(now, offer, recipe)),
  });
  const isTaken = (rig.recipes ?? []).some((one) => one.promise === offer.promise && one.recipe.id === offer.recipe);
  if (offer.brings?.length) return <p className="font-semibold">First bring {offer.brings.join(" and ")}.</p>;
  return (
    <>
      <Button disabled={take.isPending || isTaken} aria-label={`Take it as a maybe: ${offer.name}`} onClick={() => take.mutate()}>
        {isTaken ? "Taken as a maybe" : "Take it as a maybe"}
      </Button>
      {take.error && <Problems refusal={take.error instanceof Refusal ? take.error : undefined} />}
    </>
  );
}

/** The recipe on which a promise rests now. */
function Taken({ promise }: { promise: string }) {
  const { rig, edit } = useDraft();
  const { answer } = useAnswer();
  const taken = (rig.recipes ?? []).find((one) => one.promise === promise);
  const maybe = (answer?.plan.maybe ?? []).find((one) => one.promise === promise);
  if (!taken) return null;
  const isInSheet = answer?.sheet.steps.some(({ act }) => act.kind === "try-recipe" && act.promise === promise);
  const where = isInSheet
    ? "Its steps stand in the run sheet before the proofs."
    : "Its steps are not in the run sheet: something that it needs is not in use.";
  const letGo = () => edit((now) => ({ ...now, recipes: (now.recipes ?? []).filter((one) => one.promise !== promise) }));
  return (
    <div className="pb-2">
      <h3 className="font-semibold">Rests on the recipe “{taken.recipe.name}”</h3>
      {maybe ? (
        <p>
          {maybe.says[0]?.toUpperCase()}
          {maybe.says.slice(1)}. {where} It never counts as kept.
        </p>
      ) : (
        <p>It is not needed as things stand: the promise has a way of its own.</p>
      )}
      <Differs says={maybe?.differs ?? []} />
      <Button aria-label={`Lay the recipe aside: ${taken.recipe.name}`} className="mt-1" onClick={letGo}>
        Lay it aside
      </Button>
    </div>
  );
}

const Differs = ({ says }: { says: readonly string[] }) =>
  says.map((one) => (
    <p key={one} className="text-warn">
      {one}
    </p>
  ));
