import { useState } from "react";

import type { Answer } from "../../../api/client";
import { Button, Dialog, Pictogram } from "../../../ui";
import { Calculations } from "../../../rig";

/** The plan's numbers, each with its calculation behind it. */
export function Figures({ answer }: { answer: Answer }) {
  const [why, setWhy] = useState<"power" | "cost">();
  const first = answer.hours[0];
  const points = answer.plan.cost.reduce((sum, line) => sum + line.points, 0);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {first && (
        <Button onClick={() => setWhy("power")}>
          <Pictogram name="battery" />
          <span>
            <span className="sr-only">First battery: </span>
            {first.name} <b className="tabular-nums">{first.value}</b> — why
          </span>
        </Button>
      )}
      <Button onClick={() => setWhy("cost")}>
        <span>
          <b className="tabular-nums">{points}</b> points <span className="sr-only">of work</span> — why
        </span>
      </Button>
      <Dialog open={why === "power"} onClose={() => setWhy(undefined)} title="How long the batteries last">
        <p className="mb-3 text-soft">
          Usable energy divided by the load that hangs on the battery, with what is lost in leads, outlets and cells.
        </p>
        <dl className="space-y-2">
          <Calculations of={answer.hours} />
        </dl>
      </Dialog>
      <Dialog open={why === "cost"} onClose={() => setWhy(undefined)} title="What the plan costs">
        <p className="mb-3 text-soft">
          The plan keeps the most promises by weight, and of those ways the one with the fewest points. {answer.plan.candidates} possible
          joins and {answer.plan.routes_weighed} ways were weighed.
        </p>
        <table className="w-full">
          <thead>
            <tr className="text-left">
              <th scope="col">What</th>
              <th scope="col" className="text-right">
                How many
              </th>
              <th scope="col" className="text-right">
                Points
              </th>
            </tr>
          </thead>
          <tbody>
            {answer.plan.cost.map((line) => (
              <tr key={line.what} className="border-t border-edge tabular-nums">
                <td className="py-1.5">{line.what}</td>
                <td className="text-right">{line.count}</td>
                <td className="text-right">{line.points}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Dialog>
    </div>
  );
}
