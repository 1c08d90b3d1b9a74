import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Catalogue, type Rig } from "../../../api/client";
import { catalogueQuery, Problems } from "../../../rig";
import { Button, Choose, Panel, TextArea, TextInput, today } from "../../../ui";
import { givesOf, lacks, stepsFrom, trimmed } from "../model";
import { doneToday, type Recipe } from "../queries";

const PICTURE = "a picture";
const ENDS = { at: { control: "worked at", picture: "seen on" }, to: { control: "carried out by", picture: "of" } } as const;

/** A recipe as it is written: for which devices, what it gives, its steps. What is typed stays until it is saved. */
export function Editor({
  first,
  rigs,
  refusal,
  onSave,
  onCancel,
}: {
  first: Recipe;
  rigs: readonly Rig[];
  refusal: unknown;
  onSave: (recipe: Recipe) => void;
  onCancel: () => void;
}) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const [recipe, setRecipe] = useState(first);
  const change = (part: Partial<Recipe>) => setRecipe({ ...recipe, ...part });
  const missing = lacks(recipe);
  return (
    <Panel title={first.name || "A new recipe"} className="min-h-0">
      <div className="space-y-4">
        <label className="block">
          Name
          <TextInput
            value={recipe.name}
            maxLength={400}
            placeholder="such as “ISO by the card that comes late”"
            onChange={(event) => change({ name: event.target.value })}
          />
        </label>
        <With
          devices={recipe.devices}
          catalogue={catalogue}
          onDevices={(devices) => change({ devices, gives: givesOf(recipe.gives, devices) })}
        />
        <Gives
          gives={recipe.gives}
          devices={recipe.devices.map(({ profile }) => profile)}
          catalogue={catalogue}
          onGives={(gives) => change({ gives })}
        />
        <Steps steps={recipe.steps} rigs={rigs} onSteps={(steps) => change({ steps })} />
        <label className="block">
          What else it seems to depend on
          <TextArea
            value={recipe.conditions ?? ""}
            rows={2}
            maxLength={4000}
            onChange={(event) => change({ conditions: event.target.value })}
          />
        </label>
        {refusal instanceof Refusal && <Problems refusal={refusal} />}
        <div className="flex flex-wrap items-center gap-3">
          <Button weight="lead" disabled={missing !== undefined} onClick={() => onSave(trimmed(recipe))}>
            Keep the recipe
          </Button>
          <Button weight="quiet" onClick={onCancel}>
            Leave it
          </Button>
          {missing && <span className="text-soft">{missing}</span>}
        </div>
      </div>
    </Panel>
  );
}

/** The devices that a recipe is for. */
function With({
  devices,
  catalogue,
  onDevices,
}: {
  devices: Recipe["devices"];
  catalogue: Catalogue | undefined;
  onDevices: (devices: Recipe["devices"]) => void;
}) {
  const nameOf = (profile: string) => catalogue?.profiles.find(({ id }) => id === profile)?.name ?? profile;
  return (
    <section>
      <h3 className="font-semibold">With</h3>
      <ul className="mb-2 space-y-1">
        {devices.map((device, number) => (
          <li key={`${device.profile} ${number}`} className="flex flex-wrap items-center gap-2">
            <span className="min-w-48 flex-1">{nameOf(device.profile)}</span>
            <label className="flex items-center gap-1">
              firmware
              <TextInput
                value={device.firmware ?? ""}
                placeholder="any"
                pattern="[0-9.]*"
                onChange={(event) =>
                  onDevices(devices.map((one, at) => (at === number ? { ...one, firmware: event.target.value || null } : one)))
                }
                className="w-24"
              />
            </label>
            <Button
              weight="quiet"
              aria-label={`Take ${nameOf(device.profile)} out`}
              onClick={() => onDevices(devices.filter((_, at) => at !== number))}
            >
              ✕
            </Button>
          </li>
        ))}
      </ul>
      <Choose
        label="Add a device"
        value=""
        choices={[{ value: "", label: "Add a device" }, ...(catalogue?.profiles ?? []).map(({ id, name }) => ({ value: id, label: name }))]}
        onChange={(profile) => profile && onDevices([...devices, { profile, firmware: null }])}
      />
    </section>
  );
}

/** What a recipe gives: functions that are controlled, a picture, and between which of its devices. */
function Gives({
  gives,
  devices,
  catalogue,
  onGives,
}: {
  gives: Recipe["gives"];
  devices: readonly string[];
  catalogue: Catalogue | undefined;
  onGives: (gives: Recipe["gives"]) => void;
}) {
  const functions = catalogue?.functions ?? {};
  const deviceOf = (profile: string) => catalogue?.profiles.find(({ id }) => id === profile)?.name ?? profile;
  const nameOf = (one: Recipe["gives"][number]) =>
    one.kind === "picture" ? PICTURE : (functions[one.function ?? ""] ?? one.function ?? "");
  const given = (value: string): Recipe["gives"][number] =>
    value === PICTURE ? { kind: "picture", function: null } : { kind: "control", function: value };
  return (
    <section>
      <h3 className="font-semibold">Gives</h3>
      <div className="flex flex-wrap gap-2">
        {gives.map((one, number) => (
          <div key={number} className="flex w-full flex-wrap items-center gap-2">
            <Button aria-label={`Take ${nameOf(one)} out`} onClick={() => onGives(gives.filter((_, at) => at !== number))}>
              {nameOf(one)} ✕
            </Button>
            {(["at", "to"] as const).map((field) => (
              <Choose
                key={field}
                label={`${nameOf(one)}: ${ENDS[field][one.kind]}`}
                value={one[field] ?? ""}
                choices={[
                  { value: "", label: `${ENDS[field][one.kind]} any of them` },
                  ...[...new Set(devices)].map((id) => ({ value: id, label: `${ENDS[field][one.kind]} ${deviceOf(id)}` })),
                ]}
                onChange={(id) => onGives(gives.map((other, at) => (at === number ? { ...other, [field]: id || null } : other)))}
              />
            ))}
          </div>
        ))}
        <Choose
          label="Add what it gives"
          value=""
          choices={[
            { value: "", label: "Add what it gives" },
            { value: PICTURE, label: PICTURE },
            ...Object.entries(functions).map(([id, name]) => ({ value: id, label: name })),
          ]}
          onChange={(value) => value && onGives([...gives, given(value)])}
        />
      </div>
    </section>
  );
}

function Steps({ steps, rigs, onSteps }: { steps: Recipe["steps"]; rigs: readonly Rig[]; onSteps: (steps: Recipe["steps"]) => void }) {
  const take = useMutation({
    mutationFn: (rig: string) => doneToday(rig, today()),
    onSuccess: (lines) => onSteps([...steps.filter(({ says }) => says.trim()), ...stepsFrom(lines)]),
  });
  const change = (number: number, part: Partial<Recipe["steps"][number]>) =>
    onSteps(steps.map((one, at) => (at === number ? { ...one, ...part } : one)));
  return (
    <section>
      <h3 className="font-semibold">Steps</h3>
      <ol className="space-y-2">
        {steps.map((step, number) => (
          <li key={number} className="flex flex-wrap items-center gap-2">
            <b className="w-6 text-right tabular-nums">{number + 1}</b>
            <TextInput
              aria-label={`Step ${number + 1}`}
              value={step.says}
              maxLength={400}
              placeholder="what to do"
              onChange={(event) => change(number, { says: event.target.value })}
              className="min-w-60 flex-2"
            />
            <TextInput
              aria-label={`Step ${number + 1}, done when`}
              value={step.expect ?? ""}
              maxLength={400}
              placeholder="done when"
              onChange={(event) => change(number, { expect: event.target.value })}
              className="min-w-40 flex-1"
            />
            <Button
              weight="quiet"
              aria-label={`Take step ${number + 1} out`}
              onClick={() => onSteps(steps.filter((_, at) => at !== number))}
            >
              ✕
            </Button>
          </li>
        ))}
      </ol>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={steps.length >= 60} onClick={() => onSteps([...steps, { says: "" }])}>
          Another step
        </Button>
        <Choose
          label="Take today's steps from the log"
          value=""
          choices={[{ value: "", label: "Take what was done today" }, ...rigs.map(({ id, name }) => ({ value: id, label: `on ${name}` }))]}
          onChange={(rig) => rig && take.mutate(rig)}
        />
        {take.data?.length === 0 && <span className="self-center text-soft">Nothing was done on it today.</span>}
      </div>
    </section>
  );
}
