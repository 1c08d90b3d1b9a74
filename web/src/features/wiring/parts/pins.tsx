import { useQuery } from "@tanstack/react-query";

import { Button } from "../../../ui";
import { useAnswer, useDraft } from "../../../rig";
import { withoutPin } from "../pins";
import { pinsQuery } from "../queries";

/** What was decided by hand, whether the plan could obey, and what it costs. */
export function Pins() {
  const { rig, edit } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const pins = rig.pins ?? [];
  const { data } = useQuery({ ...pinsQuery(rig), enabled: pins.length > 0 && !isPlanning });
  if (pins.length === 0) return null;
  const answers = answer?.plan.pins ?? [];
  return (
    <section aria-label="Pins" className="mb-3 rounded-md border border-lead p-2">
      <h3 className="font-semibold">You decided</h3>
      <ul className="space-y-1">
        {pins.map((_, number) => {
          const said = answers[number];
          const cost = data?.length === pins.length ? data[number] : undefined;
          return (
            <li key={number} className="flex items-center gap-2 border-t border-edge pt-1 leading-snug">
              <span className="min-w-0 flex-1 text-sm">
                <b className={said?.obeyed === false ? "text-bad" : "text-good"}>{said ? (said.obeyed ? "✔ " : "✕ ") : ""}</b>
                {said?.says ?? "Planning."} {cost?.costs}
              </span>
              <Button aria-label={`Undo pin ${number + 1}`} onClick={() => edit((now) => withoutPin(now, number))}>
                Undo pin
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
