import { useState } from "react";

import type { Cell } from "../../../api/client";
import { Button, TextInput } from "../../../ui";
import { deviceName, useAnswer, useDraft } from "../../../rig";
import { VERDICTS, withCellPromised } from "../model";

/** One cell: yes, no or at which price, by which way, in which mode; and a promise made of it. */
export function CellPanel({ cell, names }: { cell: Cell; names: Record<string, string> }) {
  const { rig, edit } = useDraft();
  const { catalogue, answer } = useAnswer();
  const people = [...new Set(rig.promises.map((promise) => promise.who))];
  const [who, setWho] = useState(people[0] ?? "Operator");
  const profile = rig.devices.find((device) => device.id === cell.device)?.profile;
  const surface =
    catalogue?.profiles.find((one) => one.id === profile)?.surfaces.find((one) => one.id === cell.surface)?.name ?? cell.surface;
  const look = VERDICTS[cell.verdict];
  const promised = (cell.promised ?? []).length > 0;
  return (
    <section aria-label="Why" className="max-w-[28rem] min-w-64 flex-1 rounded-md border border-edge bg-raised p-4">
      <h3 className="mb-2 text-lg font-semibold">
        {names[cell.function] ?? cell.function} from the {surface} of {deviceName(rig, cell.device, answer)}
      </h3>
      <p className={`text-xl font-bold ${look.colour}`}>
        <span aria-hidden>{look.mark}</span> {look.word}
      </p>
      <p className="mt-2">{cell.says}</p>
      {(cell.when ?? []).length > 0 && (
        <>
          <h4 className="mt-4 font-semibold">It asks for</h4>
          <ul className="list-disc pl-5">
            {(cell.when ?? []).map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </>
      )}
      {promised ? (
        <p className="mt-5 font-semibold">This is promised.</p>
      ) : (
        cell.verdict !== "no" && (
          <form
            className="mt-5 flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              edit((now) => withCellPromised(now, cell, who.trim() || "Operator"));
            }}
          >
            <label htmlFor="cell-who">Promise it to</label>
            <TextInput id="cell-who" value={who} maxLength={60} onChange={(event) => setWho(event.target.value)} className="w-44" />
            <Button weight="lead" type="submit">
              Promise
            </Button>
          </form>
        )
      )}
    </section>
  );
}
