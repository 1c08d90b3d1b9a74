import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Choose } from "../../../ui";
import { kitsQuery, useAnswer, useDraft } from "../../../rig";
import { withDevice, withDeviceNamed, withoutDevice } from "../model";

/** The devices of the rig: called as the crew calls them, put in and taken out. */
export function Devices() {
  const { rig, edit } = useDraft();
  const { catalogue, answer } = useAnswer();
  const profiles = new Map(catalogue?.profiles.map((one) => [one.id, one]));
  const used = new Set(answer?.drawing.devices.filter((device) => device.used).map((device) => device.id));
  return (
    <>
      <ul className="-mt-2">
        {rig.devices.map((device) => {
          const kind = profiles.get(device.profile)?.name ?? device.profile;
          return (
            <li key={device.id} className="flex items-center gap-2 border-b border-edge py-1">
              <span className="min-w-0 flex-1 leading-tight">
                <input
                  key={device.name}
                  aria-label={`Name of ${device.name ?? kind}`}
                  defaultValue={device.name ?? ""}
                  placeholder={kind}
                  maxLength={60}
                  onBlur={(event) => event.target.value.trim() !== (device.name ?? "") && edit((now) => withDeviceNamed(now, device.id, event.target.value))}
                  className="min-h-11 w-full rounded-md border border-transparent bg-transparent font-semibold placeholder:font-normal placeholder:text-ink hover:border-edge focus:border-edge focus:bg-ground focus:px-2"
                />
                <span className="block text-sm text-soft">
                  {device.name ? `${kind}; ` : ""}
                  {used.has(device.id) ? "in use" : "stays in its case"}
                </span>
              </span>
              <Button
                weight="quiet"
                className="px-1.5"
                disabled={rig.devices.length === 1}
                aria-label={`Take out: ${device.name ?? kind}`}
                onClick={() => edit((now) => withoutDevice(now, device.id))}
              >
                Out
              </Button>
            </li>
          );
        })}
      </ul>
      <AddDevice />
    </>
  );
}

/** Another device: a piece of the kit, with what is known of it, or any archetype. */
function AddDevice() {
  const { edit } = useDraft();
  const { catalogue } = useAnswer();
  const { data: kits } = useQuery(kitsQuery);
  const [chosen, setChosen] = useState("");
  const names = new Map(catalogue?.profiles.map((one) => [one.id, one.name]));
  const pieces = (kits ?? []).flatMap(({ document: kit }) => (kit.devices ?? []).map((piece) => ({ piece, kit: kit.name })));
  const choices = [
    ...pieces.map(({ piece, kit }, number) => ({ value: `kit ${number}`, label: names.get(piece.profile) ?? piece.profile, note: kit })),
    ...(catalogue?.profiles ?? []).map((one) => ({ value: one.id, label: one.name })),
  ];
  const value = choices.some((one) => one.value === chosen) ? chosen : (choices[0]?.value ?? "");
  if (!value) return null;
  const piece = value.startsWith("kit ") ? pieces[Number(value.slice(4))]?.piece : undefined;
  return (
    <div className="mt-3 flex flex-wrap gap-2">
      <Choose label="Device" value={value} choices={choices} onChange={setChosen} className="min-w-0 flex-1" />
      <Button onClick={() => edit((now) => withDevice(now, piece ?? { profile: value }))}>Put in</Button>
    </div>
  );
}
