import { useQuery } from "@tanstack/react-query";

import { Button, Empty, NumberField, Panel } from "../../../ui";
import { useAnswer, useDraft, Waiting } from "../../../rig";
import { SHOT, withShot } from "../model";
import { adviceQuery } from "../queries";
import { Choice } from "./choice";

/** Where crews differ: what the shot asks, what each school would give here, which fits, and what the job fixes. */
export function SchoolsScreen() {
  const { rig, edit } = useDraft();
  const { isPlanning } = useAnswer();
  const query = useQuery({ ...adviceQuery(rig), enabled: !isPlanning });
  const { data } = query;
  const shot = rig.shot;
  return (
    <div className="space-y-3">
      <Panel title="The shot">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          {SHOT.map((field) => (
            <span key={field.key} className="flex items-center gap-2">
              {field.name}
              <NumberField
                label={field.name}
                value={shot?.[field.key]}
                unit={field.unit}
                min={field.min}
                max={field.max}
                step={field.step}
                placeholder={field.none}
                onChange={(value) => (value !== null || field.none) && edit((now) => withShot(now, { [field.key]: value }))}
              />
            </span>
          ))}
          <Button aria-pressed={shot?.marks ?? false} onClick={() => edit((now) => withShot(now, { marks: !now.shot?.marks }))}>
            {shot?.marks ? "✔ Marks must be hit again" : "No marks to hit again"}
          </Button>
        </div>
      </Panel>
      <Waiting name="schools" query={query} says="Trying each school on this rig" />
      {data?.length === 0 && (
        <Panel>
          <Empty title="Nothing to choose">This rig leaves no school open: no motor, no radio, no port that is wanted twice.</Empty>
        </Panel>
      )}
      {data?.map((advice) => (
        <Choice key={advice.kind} advice={advice} />
      ))}
    </div>
  );
}
