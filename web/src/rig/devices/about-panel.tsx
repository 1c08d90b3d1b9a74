import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Choose, TextInput } from "../../ui";
import { SidePanel } from "../parts/side-panel";
import { rigsQuery } from "../queries";
import { useDraft } from "../use-draft";
import { Field, Words } from "./fields";
import { LETTERS } from "./model";

/** What the rig is called, whose job it belongs to, and on which days it is used. */
export function AboutPanel() {
  const { rig, edit } = useDraft();
  const { data: rigs } = useQuery(rigsQuery);
  const [day, setDay] = useState("");
  const days = rig.days ?? [];
  const jobs = [...new Set(rigs?.flatMap((one) => one.document.production ?? []))];
  const change = (part: Partial<typeof rig>) => edit((now) => ({ ...now, ...part }));
  return (
    <SidePanel title="About this rig">
      <div className="grid grid-cols-2 gap-3">
        <Words label="Name" value={rig.name} placeholder={rig.id} onTake={(name) => name && change({ name })} wide />
        <Words label="Job" value={rig.production} placeholder="none" known={jobs} onTake={(production) => change({ production })} />
        <Field label="Camera">
          <Choose
            label="Camera"
            value={rig.camera ?? "A"}
            choices={LETTERS.map((value) => ({ value, label: value }))}
            onChange={(camera) => change({ camera })}
            className="w-full"
          />
        </Field>
        <div className="col-span-2">
          <p className="text-sm text-soft">{days.length === 0 ? "Used on every day of its job." : "Used on these days:"}</p>
          <ul className="flex flex-wrap gap-2">
            {days.map((one) => (
              <li key={one}>
                <Button aria-label={`Not on ${one}`} onClick={() => change({ days: days.filter((other) => other !== one) })}>
                  {one} <span aria-hidden>✕</span>
                </Button>
              </li>
            ))}
          </ul>
          <form
            className="mt-2 flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (day) change({ days: [...new Set([...days, day])].sort() });
              setDay("");
            }}
          >
            <TextInput type="date" aria-label="Day" value={day} onChange={(event) => setDay(event.target.value)} className="" />
            <Button type="submit" disabled={!day}>
              Use it on this day
            </Button>
          </form>
        </div>
        <Words label="Note" value={rig.note} placeholder="what the crew should know" onTake={(note) => change({ note })} wide />
      </div>
    </SidePanel>
  );
}
