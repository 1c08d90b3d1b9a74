import { useState } from "react";

import type { ControlPromise, RigPromise } from "../../../api/client";
import { Button, Choose, NumberField } from "../../../ui";
import { STATES, useAnswer, useDraft, useRun } from "../../../rig";
import { weightsFor, withPromise, type SurfaceChoice } from "../model";
import { TakesOf } from "./takes";


/** One promise, edited in place, with how it stands and, if it cannot be kept, why. */
export function PromiseCard({ promise, surfaces }: { promise: RigPromise; surfaces: SurfaceChoice[] }) {
  const { edit } = useDraft();
  const { answer } = useAnswer();
  const { states } = useRun();
  const [asking, setAsking] = useState(false);
  const state = STATES[states[promise.id] ?? "asked"];
  const unmet = answer?.plan.unmet.find((one) => one.promise === promise.id);
  const change = (part: Partial<RigPromise>) => edit((rig) => withPromise(rig, promise.id, part));
  const words = answer?.drawing.promises[promise.id] ?? promise.id;
  return (
    <li className="rounded-md border-l-8 border-edge bg-raised px-3 py-2" aria-label={`${promise.who}: ${words}`}>
      <div className="flex items-start gap-1.5">
        <strong className={`w-[4.9rem] shrink-0 leading-tight ${state.colour}`}>
          <span aria-hidden className="block text-lg leading-none">
            {state.mark}
          </span>
          <span className="text-sm">{state.word}</span>
        </strong>
        <div className="flex min-w-0 flex-1 flex-wrap items-center gap-1.5">
          {promise.kind === "control" && <ControlFields promise={promise} surfaces={surfaces} change={change} />}
          {promise.kind === "picture" && <PictureFields promise={promise} surfaces={surfaces} change={change} />}
          {promise.kind === "power" && (
            <>
              <span>everything in use runs</span>
              <NumberField label="Hours" value={promise.hours_h} unit="h" min={0.25} max={48} step={0.25} onChange={(v) => v !== null && change({ hours_h: v })} />
              <span>without a battery change</span>
            </>
          )}
        </div>
        <Choose
          label="How much it matters"
          value={String(promise.weight)}
          choices={weightsFor(promise.weight ?? 3)}
          onChange={(value) => change({ weight: Number(value) })}
          className="w-26 shrink-0"
        />
        <Button
          weight="quiet"
          className="px-1.5"
          aria-label={`Drop: ${words}`}
          onClick={() => edit((rig) => ({ ...rig, promises: rig.promises.filter((one) => one.id !== promise.id) }))}
        >
          Drop
        </Button>
      </div>
      {unmet && (
        <div className="mt-2 space-y-1 border-t border-edge pt-2 leading-snug">
          {(unmet.obstacles ?? []).map((obstacle) => (
            <p key={obstacle.says}>{obstacle.says}</p>
          ))}
          {!asking &&
            (unmet.ways_out ?? []).map((way) => (
              <p key={way} className="font-semibold">
                <span aria-hidden>→ </span>
                {way}
              </p>
            ))}
          {asking ? (
            <TakesOf promise={promise.id} />
          ) : (
            <Button aria-label={`What would it take? ${words}`} onClick={() => setAsking(true)}>
              What would it take?
            </Button>
          )}
        </div>
      )}
    </li>
  );
}

type Fields<P> = { promise: P; surfaces: SurfaceChoice[]; change: (part: Partial<RigPromise>) => void };

function ControlFields({ promise, surfaces, change }: Fields<ControlPromise>) {
  const { catalogue } = useAnswer();
  const places = surfaces.filter((one) => one.functions.length > 0);
  const here = places.find((one) => one.device === promise.at.device && one.surface === promise.at.surface);
  const names = catalogue?.functions ?? {};
  const known = new Set([...places.flatMap((one) => one.functions), promise.function]);
  const functions = [...known].sort().map((value) => ({
    value,
    label: names[value] ?? value,
    note: here && !here.functions.includes(value) ? "not given here" : undefined,
  }));
  return (
    <>
      <Choose label="Function" value={promise.function} choices={functions} onChange={(value) => change({ function: value })} />
      <span>from</span>
      <At label="From" promise={promise} places={places} change={change} />
    </>
  );
}

type Picture = Extract<RigPromise, { kind: "picture" }>;
const LOOKS = [
  { value: "any", label: "any look" },
  { value: "with", label: "with the look" },
  { value: "clean", label: "clean" },
];

function PictureFields({ promise, surfaces, change }: Fields<Picture>) {
  return (
    <>
      <span>picture on</span>
      <At label="Screen" promise={promise} places={surfaces.filter((one) => one.shows)} change={change} />
      <span>within</span>
      <NumberField label="At most so late" value={promise.within_ms} unit="ms" min={0} max={5000} step={10} onChange={(v) => change({ within_ms: v })} />
      <Choose label="Look" value={promise.look} choices={LOOKS} onChange={(value) => change({ look: value as Picture["look"] })} />
    </>
  );
}

function At({
  label,
  promise,
  places,
  change,
}: {
  label: string;
  promise: ControlPromise | Picture;
  places: SurfaceChoice[];
  change: (part: Partial<RigPromise>) => void;
}) {
  return (
    <Choose
      label={label}
      value={`${promise.at.device}/${promise.at.surface}`}
      choices={places.map((one) => ({ value: `${one.device}/${one.surface}`, label: one.name }))}
      onChange={(value) => {
        const [device = "", surface = ""] = value.split("/");
        change({ at: { device, surface } });
      }}
    />
  );
}
