import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";

import { Refusal } from "../../../api/client";
import { catalogueQuery, Page, Problems, rigsQuery, useMe } from "../../../rig";
import { Button, Empty, Panel } from "../../../ui";
import { givesWords, begun, rateWords } from "../model";
import { addRecipe, recipesQuery, removeRecipe, restoreRecipe, saveRecipe, type Recipe, type Tried } from "../queries";
import { CarryOut } from "./carry-out";
import { Editor } from "./editor";

/** Workarounds that somebody found: how often each worked, its steps, and carrying it out. */
export function RecipesScreen() {
  const { data, error } = useQuery(recipesQuery);
  const { data: rigs = [], isPending } = useQuery(rigsQuery);
  const { mayTick, mayEdit } = useMe();
  const [search, setSearch] = useSearchParams();
  const [editing, setEditing] = useState<{ recipe: Recipe; madeOn: number }>();
  const [removed, setRemoved] = useState<Recipe>();
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: recipesQuery.queryKey });
  const save = useMutation({
    mutationFn: ({ recipe, madeOn }: { recipe: Recipe; madeOn: number }) => (madeOn ? saveRecipe(recipe, madeOn) : addRecipe(recipe)),
    onSuccess: () => {
      setEditing(undefined);
      return again();
    },
  });
  const remove = useMutation({ mutationFn: (recipe: Recipe) => removeRecipe(recipe.id).then(() => setRemoved(recipe)), onSuccess: again });
  const restore = useMutation({
    mutationFn: (recipe: Recipe) => restoreRecipe(recipe.id).then(() => setRemoved(undefined)),
    onSuccess: again,
  });
  const recipes = data ?? [];
  const carried = recipes.find(({ saved }) => saved.document.id === search.get("carry"));
  const documents = rigs.map(({ document }) => document);
  return (
    <Page here="/recipes">
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      {carried ? (
        <CarryOut tried={carried} rigs={rigs} first={search.get("rig") ?? undefined} onEnd={() => setSearch({})} />
      ) : editing ? (
        <Editor
          first={editing.recipe}
          rigs={documents}
          refusal={save.error}
          onSave={(recipe) => save.mutate({ recipe, madeOn: editing.madeOn })}
          onCancel={() => setEditing(undefined)}
        />
      ) : (
        <Panel
          title="Recipes"
          actions={
            mayEdit && (
              <Button weight="lead" disabled={isPending} onClick={() => setEditing({ recipe: begun(documents[0]), madeOn: 0 })}>
                Write a recipe
              </Button>
            )
          }
        >
          {removed && (
            <p role="status" className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-raised px-3 py-1">
              {removed.name} was taken off. <Button onClick={() => restore.mutate(removed)}>Bring it back</Button>
            </p>
          )}
          {data && recipes.length === 0 && (
            <Empty title="No recipe yet">
              When something works that no list says should, write down with which devices and firmware, and in which steps. Each time it is
              tried counts, and a promise without a way of its own is offered it.
            </Empty>
          )}
          <ul className="divide-y divide-edge">
            {recipes.map((tried) => (
              <Line
                key={tried.saved.document.id}
                tried={tried}
                mayTick={mayTick}
                mayEdit={mayEdit}
                onCarry={() => setSearch({ carry: tried.saved.document.id })}
                onEdit={() => setEditing({ recipe: tried.saved.document, madeOn: tried.saved.revision })}
                onRemove={() => remove.mutate(tried.saved.document)}
              />
            ))}
          </ul>
        </Panel>
      )}
    </Page>
  );
}

function Line({
  tried,
  mayTick,
  mayEdit,
  onCarry,
  onEdit,
  onRemove,
}: {
  tried: Tried;
  mayTick: boolean;
  mayEdit: boolean;
  onCarry: () => void;
  onEdit: () => void;
  onRemove: () => void;
}) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const { data: rigs = [] } = useQuery(rigsQuery);
  const { saved, rate, tries } = tried;
  const recipe = saved.document;
  const nameOf = (profile: string) => catalogue?.profiles.find(({ id }) => id === profile)?.name ?? profile;
  return (
    <li className="grid gap-3 py-3 md:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0 leading-snug">
        <h3 className="text-xl font-bold">{recipe.name}</h3>
        <p>
          Gives {recipe.gives.map((one) => givesWords(one, (id) => catalogue?.functions[id] ?? id, nameOf)).join(", ")}, with{" "}
          {recipe.devices.map((one) => `${nameOf(one.profile)}${one.firmware ? ` ${one.firmware}` : ""}`).join(", ")}
        </p>
        <Rate rate={rate} />
        {recipe.conditions && <p className="text-soft">{recipe.conditions}</p>}
        <ol className="my-1 list-decimal pl-6">
          {recipe.steps.map((step, number) => (
            <li key={number}>
              {step.says} {step.expect && <span className="text-good">{step.expect}</span>}
            </li>
          ))}
        </ol>
        {tries.length > 0 && (
          <details>
            <summary className="flex min-h-11 cursor-pointer items-center text-soft">Every try</summary>
            <ol>
              {tries.map((one) => (
                <li key={one.sequence}>
                  <b className={one.worked ? "text-good" : "text-warn"}>{one.worked ? "✔ worked" : "✕ did not"}</b>{" "}
                  {[
                    new Date(one.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" }),
                    one.person,
                    rigs.find(({ document }) => document.id === one.id)?.document.name ?? one.id,
                    one.text,
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                </li>
              ))}
            </ol>
          </details>
        )}
      </div>
      <div className="flex flex-wrap content-start gap-2">
        <Button weight="lead" disabled={!mayTick} aria-label={`Try it: ${recipe.name}`} onClick={onCarry}>
          Try it
        </Button>
        <Button disabled={!mayEdit} aria-label={`Change ${recipe.name}`} onClick={onEdit}>
          Change
        </Button>
        <Button weight="quiet" disabled={!mayEdit} aria-label={`Remove ${recipe.name}`} onClick={onRemove}>
          Remove
        </Button>
      </div>
    </li>
  );
}

/** The rate as a picture: the share that worked, and the stretch in which the true one may well lie. */
function Rate({ rate }: { rate: Tried["rate"] }) {
  return (
    <p className="flex flex-wrap items-center gap-3">
      {rate.tries > 0 && (
        <span aria-hidden className="relative h-4 w-40 rounded bg-raised">
          <span
            className="absolute inset-y-1 rounded bg-soft"
            style={{ left: `${rate.low * 100}%`, width: `${(rate.high - rate.low) * 100}%` }}
          />
          <span
            className="absolute inset-y-0 w-1.5 -translate-x-1/2 rounded bg-lead"
            style={{ left: `${(rate.worked / rate.tries) * 100}%` }}
          />
        </span>
      )}
      <b className="first-letter:uppercase">{rateWords(rate)}</b>
    </p>
  );
}
