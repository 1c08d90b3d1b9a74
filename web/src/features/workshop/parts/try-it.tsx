import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Profile } from "../../../api/client";
import { Button, Choose, Empty, Panel } from "../../../ui";
import { Problems, rigsQuery } from "../../../rig";
import { tryIt } from "../queries";

const BESIDE = "";

/** Try the device at once: in a rig of the day, in the place of one of its devices or beside them. */
export function TryIt({ draft, ready }: { draft: Profile; ready: boolean }) {
  const { data: rigs } = useQuery(rigsQuery);
  const [rigId, setRig] = useState("");
  const [place, setPlace] = useState(BESIDE);
  const rig = rigs?.find((one) => one.document.id === rigId)?.document ?? rigs?.[0]?.document;
  const trial = useMutation({ mutationFn: () => tryIt(draft, rig?.id ?? "", place || null) });
  if (!rig)
    return (
      <Panel title="Try it">
        <Empty title="No rig to try it in">Open an example from the first page.</Empty>
      </Panel>
    );
  const places = [
    { value: BESIDE, label: "beside what is there" },
    ...rig.devices.map((device) => ({ value: device.id, label: `instead of ${device.name ?? device.id}` })),
  ];
  const answer = trial.data;
  return (
    <Panel title="Try it">
      <div className="flex flex-col gap-2">
        <Choose
          label="Rig"
          value={rig.id}
          choices={(rigs ?? []).map((one) => ({ value: one.document.id, label: one.document.name }))}
          onChange={setRig}
        />
        <Choose label="Place" value={places.some((one) => one.value === place) ? place : BESIDE} choices={places} onChange={setPlace} />
        <Button disabled={!ready || trial.isPending} onClick={() => trial.mutate()}>
          {ready ? "Plan the rig with it" : "Mend it first"}
        </Button>
      </div>
      {trial.error && <Problems refusal={trial.error instanceof Refusal ? trial.error : undefined} />}
      {answer && (
        <div role="status" className="mt-3">
          <p className="text-lg font-bold">
            {answer.kept.length} of {answer.promised} promises hold
          </p>
          <p className="text-soft">
            Without it: {answer.kept_before.length}. {answer.says}
          </p>
        </div>
      )}
    </Panel>
  );
}
