import { useQuery } from "@tanstack/react-query";

import { Refusal, type Rig, type Schemas } from "../../api/client";
import { Button } from "../../ui";
import { allProvenQuery, comparedQuery } from "../queries";
import { Problems } from "./problems";

type Row = Schemas["Different"];
const NAMES: Record<Row["of"], string> = {
  device: "Devices",
  firmware: "Firmware and licences",
  join: "Joins",
  setting: "Settings",
  promise: "Promises",
  balance: "Marks of balance",
};

/** What became different in the words of the trade, and the short run sheet between. */
export function ComparedRigs({ then, now, named }: { then: Rig; now: Rig; named: { then: string; now: string } }) {
  const { data, error } = useQuery(comparedQuery(then, now));
  if (error) return <Problems refusal={error instanceof Refusal ? error : undefined} />;
  if (!data) return <p className="text-soft">Comparing.</p>;
  const groups = Object.entries(NAMES).flatMap(([of, name]) => {
    const rows = data.different.filter((one) => one.of === of);
    return rows.length ? [{ name, rows }] : [];
  });
  if (groups.length === 0) return <p>Nothing is different on the cart.</p>;
  const steps = data.sheet.steps;
  return (
    <div className="space-y-3">
      {groups.map(({ name, rows }) => (
        <section key={name}>
          <h3 className="font-semibold">{name}</h3>
          <ul className="divide-y divide-edge">
            {rows.map((row) => (
              <li key={row.what + row.then + row.now} className="py-1 leading-snug">
                <b>{row.what}</b>
                <Side mark="−" says={row.then} of={named.then} />
                <Side mark="+" says={row.now} of={named.now} />
              </li>
            ))}
          </ul>
        </section>
      ))}
      <details>
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
          {steps.length === 0
            ? "Nothing has to be done"
            : `${steps.length} steps from ${named.then.toLowerCase()} to ${named.now.toLowerCase()}, about ${Math.max(1, Math.round(data.sheet.takes_s / 60))} min`}
        </summary>
        <ol className="list-decimal pl-7">
          {steps.map((step) => (
            <li key={step.id}>{step.title}</li>
          ))}
        </ol>
      </details>
    </div>
  );
}

function Side({ mark, says, of }: { mark: string; says: string; of: string }) {
  if (!says) return null;
  return (
    <span className={`block ${mark === "−" ? "text-soft" : ""}`}>
      <span aria-label={of} role="img" className="inline-block w-5 text-center font-bold">
        {mark}
      </span>
      {says}
    </span>
  );
}

/** When all was proven last, and a tap to what changed since. */
export function LastProven({ rig, onAsk }: { rig: string; onAsk: (revision: number) => void }) {
  const { data } = useQuery(allProvenQuery(rig));
  if (data === undefined) return null;
  if (data === null) return <p className="mb-2 text-soft">All of it was never proven by hand yet.</p>;
  const at = new Date(data.at).toLocaleString([], { weekday: "short", hour: "2-digit", minute: "2-digit", hour12: false });
  return (
    <div className="mb-2 flex flex-wrap items-center gap-3 rounded-md border-l-8 border-good bg-raised px-3 py-1.5">
      <span className="min-w-0 flex-1">
        All was proven last on revision {data.revision}: {[at, data.person].filter(Boolean).join(", ")}
      </span>
      <Button weight="lead" onClick={() => onAsk(data.revision)}>
        What changed since it worked
      </Button>
    </div>
  );
}
