import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Panel, Pictogram, TextField } from "../../../ui";
import { byDevice, type Answered, type Sight } from "../model";
import { symptomsQuery } from "../queries";
import { Lamp } from "./lamp";

type Say = (look: string, answer: Answered["answer"], saw?: string) => void;

/** What is seen, told unasked: a promise that fails, plain words, or a lamp, a screen, a number at some device. */
export function Tell({
  sights,
  seen,
  disabled,
  isFirst,
  name,
  onSay,
}: {
  sights: readonly Sight[];
  seen: readonly Answered[];
  disabled: boolean;
  isFirst: boolean;
  name: (device: string) => string;
  onSay: Say;
}) {
  const said = new Set(seen.map(({ look }) => look));
  const promises = sights.filter((one) => one.is_promise && !said.has(one.id));
  const all = (
    <>
      {promises.length > 0 && (
        <ul aria-label="Promises" className="grid gap-2 @2xl:grid-cols-2">
          {promises.map((one) => (
            <li key={one.id}>
              <Button disabled={disabled} className="min-h-14 w-full justify-start text-left" onClick={() => onSay(one.id, "odd")}>
                <span aria-hidden className="text-warn">
                  ▲
                </span>
                <span className="first-letter:uppercase">{one.says.replace(/^Work it: /, "").replace(/\.$/, "")}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      <InPlainWords disabled={disabled} said={said} onSay={onSay} />
      <AtDevices sights={sights.filter((one) => !said.has(one.id))} disabled={disabled} name={name} onSay={onSay} />
    </>
  );
  if (isFirst)
    return (
      <Panel className="shrink-0" title="What fails?">
        {all}
      </Panel>
    );
  return (
    <details className="shrink-0 rounded-lg border border-edge bg-panel px-4">
      <summary className="min-h-14 cursor-pointer content-center text-lg font-semibold">Tell what else you see</summary>
      <div className="pb-4">{all}</div>
    </details>
  );
}

function InPlainWords({ disabled, said, onSay }: { disabled: boolean; said: ReadonlySet<string>; onSay: Say }) {
  const [text, setText] = useState("");
  const { data } = useQuery(symptomsQuery(text.trim()));
  const offered = (data ?? []).filter((one) => !said.has(`said:${one.id}`));
  return (
    <div className="mt-3">
      <TextField label="In plain words" value={text} placeholder="two rings turn" onChange={setText} className="block" />
      <ul aria-label="What it may mean" className="mt-2 flex flex-wrap gap-2">
        {offered.map((one) => (
          <li key={one.id}>
            <Button
              disabled={disabled}
              onClick={() => {
                onSay(`said:${one.id}`, "seen", one.says);
                setText("");
              }}
            >
              {one.says}
            </Button>
          </li>
        ))}
      </ul>
      {data?.length === 0 && (
        <p className="text-soft">Nothing is known by these words. Say it otherwise, or name what you see at a device.</p>
      )}
    </div>
  );
}

function AtDevices({
  sights,
  disabled,
  name,
  onSay,
}: {
  sights: readonly Sight[];
  disabled: boolean;
  name: (device: string) => string;
  onSay: Say;
}) {
  const [open, setOpen] = useState<string>();
  const groups = byDevice(sights);
  const shown = groups.find(([device]) => device === open)?.[1] ?? [];
  return (
    <div className="mt-3">
      <p className="font-semibold">What do you see at a device?</p>
      <div role="group" aria-label="Devices" className="mt-1 flex flex-wrap gap-2">
        {groups.map(([device]) => (
          <Button
            key={device}
            aria-pressed={device === open}
            className={device === open ? "border-lead" : ""}
            onClick={() => setOpen(device === open ? undefined : device)}
          >
            {device ? name(device) : "The rig"}
          </Button>
        ))}
      </div>
      <ul className="mt-2 space-y-3">
        {shown.map((sight) => (
          <li key={sight.id}>
            <p className="flex items-center gap-2 leading-tight">
              <Pictogram name="look" className="text-soft" /> {sight.says}
            </p>
            <div className="mt-1 flex flex-wrap gap-2">
              {sight.words.map((words) => (
                <Button key={words} disabled={disabled} className="text-left" onClick={() => onSay(sight.id, "seen", words)}>
                  <Lamp look={sight.id} words={words} />
                  <span className="first-letter:uppercase">{words}</span>
                </Button>
              ))}
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
