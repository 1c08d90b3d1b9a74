import type { ControlPromise, RigPromise } from "../../api/client";
import { Choose, NumberField } from "../../ui";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { camerasOf, weightsFor, withPromise, type SurfaceChoice } from "./model";

/** What is promised, changed in place and planned again at once. */
export function PromiseFields({ promise, surfaces }: { promise: RigPromise; surfaces: SurfaceChoice[] }) {
  const { edit } = useDraft();
  const change = (part: Partial<RigPromise>) => edit((rig) => withPromise(rig, promise.id, part));
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {promise.kind === "control" && <ControlFields promise={promise} surfaces={surfaces} change={change} />}
      {promise.kind === "picture" && <PictureFields promise={promise} surfaces={surfaces} change={change} />}
      {promise.kind === "power" && (
        <>
          <span>everything in use runs</span>
          <NumberField
            label="Hours"
            value={promise.hours_h}
            unit="h"
            min={0.25}
            max={48}
            step={0.25}
            onChange={(v) => v !== null && change({ hours_h: v })}
          />
          <span>with</span>
          <NumberField
            label="Battery changes"
            value={promise.changes ?? 0}
            unit={promise.changes === 1 ? "battery change" : "battery changes"}
            min={0}
            max={20}
            step={1}
            onChange={(v) => v !== null && change({ changes: Math.round(v) })}
          />
          <span>at most,</span>
          <Choose
            label="What it may cost"
            value={promise.over_others ? "yes" : "no"}
            choices={COSTS}
            onChange={(value) => change({ over_others: value === "yes" })}
          />
        </>
      )}
      <span>and is</span>
      <Choose
        label="How much it matters"
        value={String(promise.weight)}
        choices={weightsFor(promise.weight ?? 3)}
        onChange={(value) => change({ weight: Number(value) })}
      />
    </div>
  );
}

const COSTS = [
  { value: "no", label: "at no other promise's cost" },
  { value: "yes", label: "even if another promise goes" },
];

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
  const { rig } = useDraft();
  const { catalogue } = useAnswer();
  const cameras = camerasOf(rig, catalogue);
  return (
    <>
      {cameras.length > 1 || promise.of ? (
        <Choose
          label="Whose picture"
          value={promise.of ?? ""}
          choices={[
            { value: "", label: "any camera’s picture" },
            ...cameras.map((one) => ({ value: one.id, label: `picture of ${one.name}` })),
          ]}
          onChange={(value) => change({ of: value || null })}
        />
      ) : (
        <span>picture</span>
      )}
      <span>on</span>
      <At label="Screen" promise={promise} places={surfaces.filter((one) => one.shows)} change={change} />
      <span>within</span>
      <NumberField
        label="At most so late"
        value={promise.within_ms}
        unit="ms"
        min={0}
        max={5000}
        step={10}
        onChange={(v) => change({ within_ms: v })}
      />
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
