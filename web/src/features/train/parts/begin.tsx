import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { Refusal } from "../../../api/client";
import { Problems, useDraft, useMe, usePerson } from "../../../rig";
import { Button, Panel, TextField } from "../../../ui";
import { drawn, kindWords, watch, type ExerciseLine, type Level } from "../model";
import { beginAtBench, beginByCode, beginExercise, sameAtBench, levelsQuery, progressQuery } from "../queries";

type OnBegun = (exercise: ExerciseLine) => void;

/** How an exercise is begun: in words, under the hands, by the code of somebody else's. */
function useBegin(onBegun: OnBegun) {
  const { rig } = useDraft();
  const { mayTick } = useMe();
  const go = useNavigate();
  const client = useQueryClient();
  const inWords = useMutation({ mutationFn: (level: Level) => beginExercise(rig, level, drawn(Math.random())), onSuccess: onBegun });
  const toBench = async () => {
    await client.invalidateQueries({ queryKey: ["benches"] });
    await go(`/rigs/${rig.id}/bench?by=hand`);
  };
  const same = useMutation({
    mutationFn: async ({ code, isByHand }: { code: string; isByHand: boolean }) => {
      const line = await beginByCode(code);
      // Another rig has no bench here: its exercise is worked at in words.
      if (!isByHand || line.rig !== rig.id) return line;
      await sameAtBench(line.id);
      return undefined;
    },
    onSuccess: (line) => (line ? onBegun(line) : toBench()),
  });
  const byHand = useMutation({
    mutationFn: (level: Level | undefined) =>
      beginAtBench(rig, level === undefined ? { blind: true } : { hunt: { level, seed: drawn(Math.random()) } }),
    onSuccess: toBench,
  });
  return {
    inWords: inWords.mutate,
    byHand: byHand.mutate,
    same: same.mutate,
    isBusy: inWords.isPending || same.isPending || byHand.isPending || !mayTick,
    refusal: [inWords.error, same.error, byHand.error].find((one) => one instanceof Refusal),
  };
}

/** Which exercise: how hard, or the one that somebody else has; and what one tends to miss. */
export function Begin({ onBegun }: { onBegun: OnBegun }) {
  const begin = useBegin(onBegun);
  const [isByHand, setByHand] = useState(false);
  const { data: levels } = useQuery(levelsQuery);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_22rem]">
      <Panel title="Something is wrong with this rig. Find it." scroll>
        <Problems refusal={begin.refusal} />
        <div role="group" aria-label="How" className="mb-3 flex gap-1">
          {HOW.map(([byHand, says]) => (
            <Button
              key={says}
              weight={byHand === isByHand ? "lead" : "plain"}
              aria-pressed={byHand === isByHand}
              onClick={() => setByHand(byHand)}
            >
              {says}
            </Button>
          ))}
        </div>
        <ul aria-label="How hard" className="grid gap-2 @2xl:grid-cols-2">
          {levels?.map(({ level, name, says }) => (
            <Choice
              key={level}
              name={`${level} · ${name}`}
              says={says}
              disabled={begin.isBusy}
              onChoose={() => (isByHand ? begin.byHand(level) : begin.inWords(level))}
            />
          ))}
          {isByHand && (
            <Choice
              name="Build it blind"
              says="From the cases, without the sheet; the bench judges what works."
              disabled={begin.isBusy}
              onChoose={() => begin.byHand(undefined)}
            />
          )}
        </ul>
        <ByCode disabled={begin.isBusy} onCode={(code) => begin.same({ code, isByHand })} />
        <p className="mt-4 text-soft">
          You look, mend, and work again what failed; each takes the time that it takes beside the rig. At the end stands what it was, and
          how the finder would have gone about it.
        </p>
      </Panel>
      <SoFar />
    </div>
  );
}

const HOW = [
  [false, "In words"],
  [true, "Under my hands"],
] as const;

function Choice({ name, says, disabled, onChoose }: { name: string; says: string; disabled: boolean; onChoose: () => void }) {
  return (
    <li>
      <Button disabled={disabled} className="h-full min-h-24 w-full flex-col items-start p-3 text-left" onClick={onChoose}>
        <b className="text-lg">{name}</b>
        <span>{says}</span>
      </Button>
    </li>
  );
}

function ByCode({ disabled, onCode }: { disabled: boolean; onCode: (code: string) => void }) {
  const [code, setCode] = useState("");
  return (
    <form
      className="mt-4 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onCode(code);
      }}
    >
      <TextField label="The code that somebody gave you" value={code} placeholder="7K2M-0Q4D" onChange={setCode} className="min-w-60" />
      <Button type="submit" disabled={disabled || code.trim() === ""}>
        Begin the same
      </Button>
    </form>
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
              {one.level > 0 ? `Level ${one.level}` : "Built blind"}
              {one.bench && one.level > 0 && ", by hand"} · {one.status === "mended" ? watch(one.seconds) : "given up"}
              <span className="block text-sm text-soft">
                {one.code && `${one.code} · `}
                {one.at.slice(0, 10)}
              </span>
            </span>
            <b className="text-lg tabular-nums">{one.points}</b>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
