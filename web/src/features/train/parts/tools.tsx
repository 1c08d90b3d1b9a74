import { useState } from "react";

import type { Rig } from "../../../api/client";
import { deviceName } from "../../../rig";
import { Button, Panel, Pictogram, SearchField } from "../../../ui";
import { devicesOf, suspectsFor, type Answer, type Choices, type ExerciseState } from "../model";

/** What can be looked at and what can be mended, device by device. */
export function Tools({
  rig,
  choices,
  state,
  isBusy,
  onDo,
}: {
  rig: Rig;
  choices: Choices;
  state: ExerciseState;
  isBusy: boolean;
  onDo: (answer: Answer) => void;
}) {
  const [device, setDevice] = useState<string>();
  const [words, setWords] = useState("");
  const seen = new Map(state.told.filter(({ kind }) => kind === "look").map((one) => [one.id, one.seen]));
  const looks = choices.sights.filter((one) => (device ? one.device === device : one.is_promise || !one.device));
  const suspects = suspectsFor(choices.suspects, device, words);
  return (
    <Panel className="shrink-0" title="Where?">
      <div role="group" aria-label="Devices" className="flex flex-wrap gap-2">
        <Button aria-pressed={!device} className={device ? "" : "border-lead"} onClick={() => setDevice(undefined)}>
          What was promised
        </Button>
        {devicesOf(choices).map((one) => (
          <Button key={one} aria-pressed={one === device} className={one === device ? "border-lead" : ""} onClick={() => setDevice(one)}>
            {deviceName(rig, one)}
          </Button>
        ))}
      </div>
      <div className="mt-3 grid gap-4 @2xl:grid-cols-2">
        <section aria-label="Look">
          <h3 className="mb-1 font-semibold">Look</h3>
          <ul className="flex flex-col gap-1.5">
            {looks.map((one) => (
              <li key={one.id}>
                <Button
                  disabled={isBusy}
                  className="w-full justify-start py-2 text-left"
                  onClick={() => onDo({ kind: "look", look: one.id })}
                >
                  <Pictogram name="look" className="shrink-0 text-soft" />
                  <span className="leading-tight">
                    {one.says}
                    {seen.has(one.id) && <b className="block first-letter:uppercase">{seen.get(one.id)}</b>}
                  </span>
                </Button>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="Mend">
          <h3 className="mb-1 font-semibold">Mend, and work it again</h3>
          <SearchField label="What it could be" placeholder="half seated" value={words} onChange={setWords} className="mb-1.5 w-full" />
          {suspects.length === 0 && <p className="text-soft">Choose a device, or say what you think it is.</p>}
          <ul className="flex flex-col gap-1.5">
            {suspects.map((one) => (
              <li key={one.id}>
                <Button
                  disabled={isBusy}
                  className="w-full justify-start py-2 text-left"
                  onClick={() => onDo({ kind: "mend", cause: one.id })}
                >
                  <Pictogram name="set" className="shrink-0 text-soft" />
                  <span className="leading-tight first-letter:uppercase">{one.says}</span>
                </Button>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </Panel>
  );
}
