import { useState } from "react";

import type { Answer } from "../../../api/client";
import { Button, Dialog } from "../../../ui";
import { deviceName, useDraft } from "../../../rig";

/** The plan's numbers, each with its calculation behind it. */
export function Figures({ answer }: { answer: Answer }) {
  const { rig } = useDraft();
  const [why, setWhy] = useState<"power" | "cost">();
  const batteries = answer.plan.feeds.filter((feed) => feed.battery === feed.device && feed.hours_h != null);
  const shortest = batteries.toSorted((one, other) => (one.hours_h ?? 0) - (other.hours_h ?? 0))[0];
  const points = answer.plan.cost.reduce((sum, line) => sum + line.points, 0);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {shortest && (
        <Button onClick={() => setWhy("power")}>
          <span>
            First battery: <b>{deviceName(rig, shortest.device, answer)}</b> after{" "}
            <b className="tabular-nums">{shortest.hours_h?.toFixed(1)} h</b> — why
          </span>
        </Button>
      )}
      <Button onClick={() => setWhy("cost")}>
        <span>
          <b className="tabular-nums">{points}</b> points of work — why
        </span>
      </Button>
      <Dialog open={why === "power"} onClose={() => setWhy(undefined)} title="How long the batteries last">
        <p className="mb-3 text-soft">Usable energy divided by the load that hangs on the battery.</p>
        <ul className="space-y-2">
          {batteries.map((feed) => (
            <li key={feed.device} className="rounded-md bg-raised p-3">
              <b>{deviceName(rig, feed.device, answer)}</b>
              <p className="tabular-nums">
                {((feed.hours_h ?? 0) * feed.load_w).toFixed(1)} Wh usable ÷ {feed.load_w.toFixed(1)} W ={" "}
                <b>{feed.hours_h?.toFixed(1)} h</b>
              </p>
              {answer.plan.feeds
                .filter((other) => other.from_device === feed.device)
                .map((other) => (
                  <p key={other.device} className="text-soft">
                    It also feeds {deviceName(rig, other.device, answer)}: {other.load_w.toFixed(1)} W of that.
                  </p>
                ))}
            </li>
          ))}
        </ul>
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
