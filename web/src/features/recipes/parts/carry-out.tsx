import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Saved } from "../../../api/client";
import { Problems, usePerson } from "../../../rig";
import { Button, Choose, TextInput } from "../../../ui";
import { rateWords } from "../model";
import { countTry, type Tried } from "../queries";

/** A recipe carried out, a step at a time; at its end the try is counted, whichever way it went. */
export function CarryOut({
  tried,
  rigs,
  first,
  onEnd,
}: {
  tried: Tried;
  rigs: readonly Saved[];
  first: string | undefined;
  onEnd: () => void;
}) {
  const { document: recipe } = tried.saved;
  const [person] = usePerson();
  const [at, setAt] = useState(0);
  const [reason, setReason] = useState("");
  const [chosen, setChosen] = useState(first);
  const saved = rigs.find(({ document }) => document.id === chosen) ?? rigs[0];
  const client = useQueryClient();
  const count = useMutation({
    mutationFn: (worked: boolean) => countTry(saved!.document.id, saved!.revision, recipe.id, worked, reason, person),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["recipes"] });
      onEnd();
    },
  });
  const step = recipe.steps[at];
  return (
    <article aria-label="Recipe" className="flex flex-col rounded-lg border border-edge bg-panel">
      <div className="min-h-72 space-y-3 px-5 py-4">
        <p className="text-lg text-soft">
          <b className="text-ink">{recipe.name}</b> {step ? `step ${at + 1} of ${recipe.steps.length}` : "at its end"}
        </p>
        {step ? (
          <>
            <h2 className="text-3xl leading-tight font-bold">{step.says}</h2>
            {step.expect && (
              <p className="text-lg">
                <b className="text-good">Done when: </b>
                {step.expect}
              </p>
            )}
          </>
        ) : (
          <AtItsEnd
            tried={tried}
            rigs={rigs}
            chosen={saved?.document.id}
            onChoose={setChosen}
            reason={reason}
            onReason={setReason}
            error={count.error}
          />
        )}
      </div>
      <div className="grid grid-cols-[1fr_2fr_1fr] gap-2 border-t border-edge p-4">
        <Button className="min-h-16 text-lg" onClick={() => (at === 0 ? onEnd() : setAt(at - 1))}>
          {at === 0 ? "Leave it" : "Back"}
        </Button>
        {step ? (
          <Button weight="lead" className="col-span-2 min-h-16 text-xl" onClick={() => setAt(at + 1)}>
            Done
          </Button>
        ) : (
          <>
            <Button weight="lead" className="min-h-16 text-xl" disabled={!saved || count.isPending} onClick={() => count.mutate(true)}>
              ✔ It worked
            </Button>
            <Button className="min-h-16 text-lg" disabled={!saved || count.isPending} onClick={() => count.mutate(false)}>
              ✕ It did not
            </Button>
          </>
        )}
      </div>
    </article>
  );
}

/** On which rig it was tried, and what was different. */
function AtItsEnd({
  tried,
  rigs,
  chosen,
  onChoose,
  reason,
  onReason,
  error,
}: {
  tried: Tried;
  rigs: readonly Saved[];
  chosen: string | undefined;
  onChoose: (rig: string) => void;
  reason: string;
  onReason: (reason: string) => void;
  error: unknown;
}) {
  return (
    <>
      <h2 className="text-3xl leading-tight font-bold">Does it work now?</h2>
      <p className="text-soft">Until now it {rateWords(tried.rate)}. A try that failed is worth as much to the next crew.</p>
      <div className="flex flex-wrap items-center gap-2">
        <span>Tried on</span>
        <Choose
          label="Tried on"
          value={chosen ?? ""}
          choices={rigs.map(({ document }) => ({ value: document.id, label: document.name }))}
          onChange={onChoose}
        />
      </div>
      <TextInput
        aria-label="Under which conditions"
        value={reason}
        maxLength={4000}
        placeholder="anything that was different this time"
        onChange={(event) => onReason(event.target.value)}
      />
      {error instanceof Refusal && <Problems refusal={error} />}
    </>
  );
}
