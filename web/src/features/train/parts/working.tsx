import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { Refusal, type Rig } from "../../../api/client";
import { deviceName, Problems } from "../../../rig";
import { Button, OnItsWay, Panel } from "../../../ui";
import { watch, type Answer, type Choices, type ExerciseLine, type ExerciseState } from "../model";
import { answerExercise, choicesQuery, exerciseQuery, exerciseRigQuery } from "../queries";
import { Over } from "./over";
import { Tools } from "./tools";

/** An exercise under way: what fails, what a colleague says, what was seen, and what can be done. */
export function Working({ exercise, onLeave }: { exercise: ExerciseLine; onLeave: () => void }) {
  const client = useQueryClient();
  const { data: state, error } = useQuery(exerciseQuery(exercise.id));
  const { data: choices } = useQuery(choicesQuery(exercise.id));
  const { data: begun } = useQuery(exerciseRigQuery(exercise.id));
  const answered = useMutation({
    mutationFn: (answer: Answer) => answerExercise(exercise.id, answer),
    onSuccess: (now) => {
      client.setQueryData(exerciseQuery(exercise.id).queryKey, now);
      if (now.status !== "open") void client.invalidateQueries({ queryKey: ["progress"] });
    },
  });
  const refusal = [answered.error, error].find((one) => one instanceof Refusal);
  if (!state || !choices || !begun) return refusal ? <Problems refusal={refusal} /> : <OnItsWay says="Hiding something" />;
  if (state.status !== "open") return <Over exercise={exercise} state={state} onLeave={onLeave} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="flex min-h-0 flex-col gap-3 @3xl:overflow-auto" tabIndex={0} aria-label="What can be done">
        <Problems refusal={refusal} />
        <Fails state={state} exercise={exercise} />
        <Tools
          rig={begun.document as Rig}
          choices={choices as Choices}
          state={state}
          isBusy={answered.isPending}
          onDo={(answer) => answered.mutate(answer)}
        />
      </div>
      <Done rig={begun.document as Rig} state={state} onGiveUp={() => answered.mutate({ kind: "give-up" })} isBusy={answered.isPending} />
    </div>
  );
}

function Fails({ state, exercise }: { state: ExerciseState; exercise: ExerciseLine }) {
  return (
    <Panel className="shrink-0" title={`${exercise.level} · ${exercise.name}`} actions={<b className="tabular-nums">{exercise.code}</b>}>
      <ul aria-label="What fails" className="text-lg leading-snug">
        {state.fails_now.map((one) => (
          <li key={one}>
            <span aria-hidden className="text-warn">
              ▲{" "}
            </span>
            <b>{one.charAt(0).toUpperCase() + one.slice(1)}</b> fails
          </li>
        ))}
      </ul>
      {state.rumour && (
        <p className="mt-2 border-l-8 border-edge pl-3">
          A colleague: “I have looked already. <b>{state.rumour}</b>.”
        </p>
      )}
    </Panel>
  );
}

/** What was done, the last thing first, with the clock. */
function Done({ rig, state, onGiveUp, isBusy }: { rig: Rig; state: ExerciseState; onGiveUp: () => void; isBusy: boolean }) {
  return (
    <Panel
      title={
        <span className="tabular-nums" aria-label="Time so far">
          {watch(state.seconds)}
        </span>
      }
      actions={
        <Button disabled={isBusy} onClick={onGiveUp}>
          Give up
        </Button>
      }
      scroll
    >
      {state.told.length === 0 && <p className="text-soft">Nothing yet. Look somewhere, or mend what you think it is.</p>}
      <ol aria-label="Done so far">
        {state.told.toReversed().map((one, place) => (
          <li
            key={state.told.length - place}
            className="border-b border-edge py-1.5 leading-tight"
            aria-live={place === 0 ? "polite" : undefined}
          >
            <span className="flex justify-between gap-2 text-sm text-soft">
              <span>
                {one.kind === "mend" && "Mended: "}
                {named(rig, one.says)}
              </span>
              <span className="tabular-nums">{watch(one.seconds)}</span>
            </span>
            <b className={`block first-letter:uppercase ${one.kind === "mend" ? (one.helped ? "text-good" : "text-warn") : ""}`}>
              {one.seen}
            </b>
            {one.undoes_s > 0 && <span className="text-sm text-warn">It undid {Math.round(one.undoes_s)} s of work.</span>}
          </li>
        ))}
      </ol>
    </Panel>
  );
}

/** Looks name their devices; where one goes by its id only, by its name. */
const named = (rig: Rig, says: string) => rig.devices.reduce((words, { id }) => (words === id ? deviceName(rig, id) : words), says);
