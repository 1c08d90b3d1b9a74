import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { SAID, type Noted } from "../../../rig";
import { Button, Choose } from "../../../ui";

type May = Schemas["MayHappen"];

/** Something happened to a device since: what rested on it has to be proven again. */
export function Happened({
  may,
  disabled,
  onHappened,
}: {
  may: readonly May[];
  disabled: boolean;
  onHappened: (what: Noted, device: string) => void;
}) {
  const [chosen, setChosen] = useState<string>();
  const [said, setSaid] = useState("");
  const one = may.find(({ device }) => device === chosen) ?? may[0];
  if (!one) return null;
  return (
    <section aria-label="Something happened since" className="border-t border-edge pt-3">
      <h3 className="mb-2 font-semibold">Something happened since?</h3>
      <div className="flex flex-wrap gap-2">
        <Choose
          label="Device"
          value={one.device}
          choices={may.map(({ device, name }) => ({ value: device, label: name }))}
          onChange={setChosen}
          className="basis-full"
        />
        {one.what.map((what) => (
          <Button
            key={what}
            className="flex-1"
            disabled={disabled}
            onClick={() => {
              onHappened(what, one.device);
              setSaid(`${one.name}: ${SAID[what].toLowerCase()}. What rested on it is to be proven again.`);
            }}
          >
            {SAID[what]}
          </Button>
        ))}
      </div>
      <p role="status" className="mt-2 text-soft">
        {said}
      </p>
    </section>
  );
}
