import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, told, type Schemas } from "../../../api/client";
import { Button, Panel } from "../../../ui";
import { clock } from "../model";
import type { Hands } from "./use-hands";

type Verdict = Schemas["Verdict"];

const judge = (bench: string, give_up: boolean) =>
  told(api.POST("/api/training/at-bench/{bench}", { params: { path: { bench } }, body: { give_up } }));

/** An exercise under the hands: what still fails; once all works, or given up, what it was and how long it might have taken. */
export function ExerciseHere({ hands }: { hands: Hands }) {
  const client = useQueryClient();
  const id = hands.newest!.id;
  const key = ["bench", id, "verdict", hands.bench?.count];
  const { data } = useQuery({ queryKey: key, queryFn: () => judge(id, false), placeholderData: (before: Verdict | undefined) => before });
  const ended = useMutation({
    mutationFn: () => judge(id, true),
    onSuccess: (verdict) => {
      client.setQueryData(key, verdict);
      void client.invalidateQueries({ queryKey: ["progress"] });
    },
  });
  const verdict = ended.data ?? data;
  const isBlind = hands.beginning?.blind;
  if (!verdict) return null;
  if (verdict.status !== "open") return <Over verdict={verdict} />;
  return (
    <Panel
      className="shrink-0"
      title={isBlind ? "Built blind" : "Something is wrong"}
      actions={
        <Button disabled={ended.isPending} onClick={() => ended.mutate()}>
          {isBlind ? "End it" : "Give up"}
        </Button>
      }
    >
      <ul aria-label="What fails" className="leading-snug">
        {verdict.fails_now.map((one) => (
          <li key={one}>
            <span aria-hidden className="text-warn">
              ▲{" "}
            </span>
            <span className="font-semibold">{one}</span>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-soft">It is over once nothing fails.</p>
    </Panel>
  );
}

function Over({ verdict }: { verdict: Verdict }) {
  return (
    <Panel className="shrink-0" title={verdict.status === "mended" ? `All works: ${verdict.points} of 100 points` : "Given up"}>
      {(verdict.was ?? []).map((one) => (
        <p key={one} className="text-lg leading-snug font-semibold first-letter:uppercase">
          {one}
        </p>
      ))}
      <p>
        {clock(verdict.seconds)} by the bench's clock, {verdict.moves} moves
        {verdict.par_s != null && `; it can be done in ${clock(verdict.par_s)}`}.
      </p>
      {verdict.otherwise && verdict.otherwise.length > 0 && (
        <>
          <p className="mt-1 font-semibold">Otherwise than planned</p>
          <ul className="list-disc pl-5 text-sm">
            {verdict.otherwise.slice(0, 8).map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </>
      )}
    </Panel>
  );
}
