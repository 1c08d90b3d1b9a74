import type { Advice } from "../../../api/client";
import { Button, Panel } from "../../../ui";
import { Calculations, useAnswer, useDraft } from "../../../rig";
import { isFixed, withSchool } from "../model";

const OPEN = new Set(["focus", "port", "chain"]);

/** One choice between two schools, side by side, the one that fits marked with its reason. */
export function Choice({ advice }: { advice: Advice }) {
  const { edit } = useDraft();
  const fixed = isFixed(advice);
  return (
    <Panel
      title={advice.question}
      actions={
        OPEN.has(advice.kind) &&
        fixed && <Button onClick={() => edit((rig) => withSchool(rig, advice.kind, "either"))}>Leave it to the plan</Button>
      }
    >
      <p className="-mt-1 mb-3 text-soft">{advice.because}</p>
      <ul className="grid gap-3 md:grid-cols-2">
        {advice.options.map((option) => (
          <Option key={option.id} option={option} advice={advice} />
        ))}
      </ul>
    </Panel>
  );
}

function Option({ option, advice }: { option: Advice["options"][number]; advice: Advice }) {
  const { rig, edit } = useDraft();
  const { answer } = useAnswer();
  const chosen = advice.fixed === option.id;
  const fits = advice.recommends === option.id;
  const figures = option.figures;
  const lost = figures ? rig.promises.filter((promise) => !(option.kept ?? []).includes(promise.id)) : [];
  return (
    <li className={`flex flex-col gap-1 rounded-md border-2 bg-raised p-3 ${chosen ? "border-lead" : "border-transparent"}`}>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="text-lg font-semibold">{option.name}</h3>
        {fits && <span className="font-bold text-good">✔ fits here</span>}
      </div>
      <p>{option.says}</p>
      <dl className="mt-1 space-y-1">
        <Calculations of={option.numbers ?? []} />
        {figures && (
          <div className="tabular-nums">
            <dt className="inline">With it: </dt>
            <dd className="inline">
              <b>{figures.kept}</b> of {rig.promises.length} promises, <b>{figures.cables}</b> cables,{" "}
              <b>{(figures.mass_g / 1000).toFixed(2)} kg</b> on the gimbal, <b>{figures.load_w.toFixed(1)} W</b>
            </dd>
          </div>
        )}
      </dl>
      {lost.length > 0 && (
        <p className="text-sm text-warn">
          ▲ Not kept with it: {lost.map((promise) => answer?.drawing.promises[promise.id] ?? promise.id).join("; ")}.
        </p>
      )}
      <div className="mt-auto pt-2">
        <Button
          weight={chosen ? "plain" : fits ? "lead" : "plain"}
          disabled={chosen}
          aria-label={`${chosen ? "Fixed" : "Fix"} for this job: ${option.name}`}
          onClick={() => edit((now) => withSchool(now, advice.kind, option.id))}
        >
          {chosen ? "Fixed for this job" : "Fix for this job"}
        </Button>
      </div>
    </li>
  );
}
