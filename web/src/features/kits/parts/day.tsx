import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";

import { Refusal, type Day, type Kit } from "../../../api/client";
import { Button, Empty, Panel, TickBox } from "../../../ui";
import { catalogueQuery, Problems, Progress, rigsQuery } from "../../../rig";
import { giveShares, planDay } from "../queries";

/** All rigs of the day planned with one kit: what is short, the best split, and what to ask for. */
export function DayPanel({ kit }: { kit: Kit }) {
  const { data: rigs } = useQuery(rigsQuery);
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const leaving = useRef(new AbortController());
  const plan = useMutation({ mutationFn: (ids: string[]) => planDay(kit.id, ids, leaving.current.signal) });
  useEffect(() => {
    const here = (leaving.current = new AbortController());
    return () => here.abort();
  }, []);
  const chosen = (rigs ?? []).map((one) => one.document).filter((rig) => !out.has(rig.id));
  return (
    <Panel title="The day with this kit">
      {rigs?.length === 0 && <Empty title="No rigs of the day">Bring in or open a rig first.</Empty>}
      <ul className="mb-3 space-y-1">
        {rigs?.map(({ document: rig }) => (
          <li key={rig.id}>
            <label className="flex min-h-11 items-center gap-3">
              <TickBox
                checked={!out.has(rig.id)}
                onChange={(isIn) => {
                  const next = new Set(out);
                  if (isIn) next.delete(rig.id);
                  else next.add(rig.id);
                  setOut(next);
                }}
              />
              <b>{rig.camera}</b> {rig.name}
            </label>
          </li>
        ))}
      </ul>
      <Progress name="day" going={plan.isPending} says="Planning the rigs of the day" stop="Stop, and show the best so far" />
      {!plan.isPending && (
        <Button weight="lead" disabled={chosen.length === 0} onClick={() => plan.mutate(chosen.map((rig) => rig.id))}>
          Plan {chosen.length === 1 ? "one rig" : `${chosen.length} rigs`} together
        </Button>
      )}
      {plan.error && <Problems refusal={plan.error instanceof Refusal ? plan.error : undefined} />}
      {plan.data && !plan.isPending && (
        <DayAnswer day={plan.data} names={new Map(rigs?.map((one) => [one.document.id, one.document.name]))} />
      )}
    </Panel>
  );
}

function DayAnswer({ day, names }: { day: Day; names: Map<string, string> }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const cables = new Map(catalogue?.cables.map((one) => [one.id, one.name]));
  const client = useQueryClient();
  const share = useMutation({
    mutationFn: () => giveShares(day),
    onSettled: () => {
      // A rig that was open before is read afresh when it is opened again.
      client.removeQueries({ queryKey: ["rig"] });
      return client.invalidateQueries({ queryKey: rigsQuery.queryKey });
    },
  });
  return (
    <div className="mt-4 space-y-4">
      <p className="text-soft">{day.status === "proven-optimal" ? "The best split, proven." : "The best so far, not proven."}</p>
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={share.isPending} onClick={() => share.mutate()}>
          Give each rig its share
        </Button>
        {share.isSuccess && (
          <span role="status" className="font-semibold text-good">
            ✔ Each bag holds what its plan lays.
          </span>
        )}
        {share.error && <Problems refusal={share.error instanceof Refusal ? share.error : undefined} />}
      </div>
      <ul className="space-y-2" aria-label="Rigs">
        {day.rigs.map((one) => (
          <li
            key={one.rig}
            className={`rounded-md border-l-8 bg-raised px-3 py-2 ${(one.lost ?? []).length ? "border-warn" : "border-good"}`}
          >
            <Link to={`/rigs/${one.rig}`} className="font-semibold underline">
              {names.get(one.rig) ?? one.rig}
            </Link>
            <p>
              {(one.lost ?? []).length
                ? `▲ Gives way: ${(one.lost ?? []).join("; ")}.`
                : `✔ Keeps all ${one.alone.length} that it could keep alone.`}
            </p>
          </li>
        ))}
      </ul>
      <Lines title="Short" lines={day.shortages.map((one) => one.says)} none="Nothing is short." />
      <Lines title="Ask for" lines={day.asks.map((one) => one.says)} none="Nothing to ask for." />
      <Lines title="To keep more" lines={(day.wishes ?? []).map((one) => one.says)} none="Nothing to get would keep more." />
      <Lines
        title="Spare"
        lines={Object.entries(day.spare).map(([key, count]) => `${count} × ${cables.get(key) ?? key}`)}
        none="No cable is spare."
      />
    </div>
  );
}

function Lines({ title, lines, none }: { title: string; lines: string[]; none: string }) {
  return (
    <section>
      <h3 className="font-semibold">{title}</h3>
      {lines.length === 0 ? (
        <p className="text-soft">{none}</p>
      ) : (
        <ul className="list-disc pl-5">
          {lines.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
