import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal } from "../../../api/client";
import { Problems, useDraft, useMe, usePerson } from "../../../rig";
import { Button, Panel, TextField } from "../../../ui";
import { drawn, kindWords, watch, type ExerciseLine } from "../model";
import { beginByCode, beginExercise, levelsQuery, progressQuery } from "../queries";

/** Which exercise: how hard, or the one that somebody else has; and what one tends to miss. */
export function Begin({ onBegun }: { onBegun: (exercise: ExerciseLine) => void }) {
  const { rig } = useDraft();
  const { mayTick } = useMe();
  const [code, setCode] = useState("");
  const { data: levels } = useQuery(levelsQuery);
  const anew = useMutation({
    mutationFn: (level: ExerciseLine["level"]) => beginExercise(rig, level, drawn(Math.random())),
    onSuccess: onBegun,
  });
  const same = useMutation({ mutationFn: beginByCode, onSuccess: onBegun });
  const refusal = [anew.error, same.error].find((one) => one instanceof Refusal);
  const isBusy = anew.isPending || same.isPending || !mayTick;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_22rem]">
      <Panel title="Something is wrong with this rig. Find it." scroll>
        <Problems refusal={refusal} />
        <ul aria-label="How hard" className="grid gap-2 @2xl:grid-cols-2">
          {levels?.map((level) => (
            <li key={level.level}>
              <Button
                disabled={isBusy}
                className="h-full min-h-24 w-full flex-col items-start p-3 text-left"
                onClick={() => anew.mutate(level.level)}
              >
                <b className="text-lg">
                  {level.level} · {level.name}
                </b>
                <span>{level.says}</span>
              </Button>
            </li>
          ))}
        </ul>
        <form
          className="mt-4 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            same.mutate(code);
          }}
        >
          <TextField label="The code that somebody gave you" value={code} placeholder="7K2M-0Q4D" onChange={setCode} className="min-w-60" />
          <Button type="submit" disabled={isBusy || code.trim() === ""}>
            Begin the same
          </Button>
        </form>
        <p className="mt-4 text-soft">
          You look, mend, and work again what failed; each takes the time that it takes beside the rig. At the end stands what it was, and
          how the finder would have gone about it.
        </p>
      </Panel>
      <SoFar />
    </div>
  );
}

/** What was done so far, and what one tends to miss. */
function SoFar() {
  const [person] = usePerson();
  const { data } = useQuery(progressQuery(person));
  return (
    <Panel title={person ? `${person} so far` : "So far"} scroll>
      {data?.trained.length === 0 && <p className="text-soft">Nothing yet.</p>}
      {data && data.missed.length > 0 && (
        <div className="mb-3">
          <p className="font-semibold">Often missed</p>
          <ul>
            {data.missed.map((one) => (
              <li key={one.kind} className="first-letter:uppercase">
                {kindWords(one.kind)}: {one.missed} of {one.met}
              </li>
            ))}
          </ul>
        </div>
      )}
      <ol>
        {data?.trained.map((one) => (
          <li key={`${one.at} ${one.code} ${one.points}`} className="flex items-baseline justify-between gap-2 border-b border-edge py-1">
            <span>
              Level {one.level} · {one.status === "mended" ? watch(one.seconds) : "given up"}
              <span className="block text-sm text-soft">
                {one.code} · {one.at.slice(0, 10)}
              </span>
            </span>
            <b className="text-lg tabular-nums">{one.points}</b>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
