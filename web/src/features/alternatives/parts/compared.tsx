import type { Alternative } from "../../../api/client";
import { Button } from "../../../ui";
import { useAnswer, useDraft } from "../../../rig";
import { isBest, newWays, ROWS, withWays } from "../model";

/** Plans side by side: promises kept, figures with the best of each row marked, and in what each differs. */
export function Compared({ plans }: { plans: Alternative[] }) {
  const { rig, edit } = useDraft();
  const { answer } = useAnswer();
  const first = plans[0]!;
  const all = plans.map((one) => one.figures);
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Plans side by side">
      <table className="w-full min-w-[50rem] table-fixed border-collapse">
        <thead>
          <tr className="align-bottom">
            <th scope="col" className="w-44 pb-2 text-left font-normal text-soft">
              {first.plan.status === "proven-optimal" ? "Best first, proven." : "Best so far, not proven."}
            </th>
            {plans.map((one, number) => (
              <th key={number} scope="col" className="px-2 pb-2 text-left">
                <span className="flex flex-wrap items-center gap-3 text-lg">
                  {number === 0 ? "Now" : `Plan ${number + 1}`}
                  {number > 0 && (
                    <Button aria-label={`Adopt plan ${number + 1}`} onClick={() => edit((now) => withWays(now, newWays(first, one)))}>
                      Adopt
                    </Button>
                  )}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rig.promises.map((promise) => (
            <tr key={promise.id} className="border-t border-edge">
              <th scope="row" className="py-1 pr-2 text-left font-normal leading-tight">
                <span className="line-clamp-2">{answer?.drawing.promises[promise.id] ?? promise.id}</span>
              </th>
              {plans.map((one, number) => {
                const kept = one.plan.routes.some((route) => route.promise === promise.id);
                return (
                  <td key={number} className={`px-2 font-semibold ${kept ? "text-good" : "text-bad"}`}>
                    <span aria-hidden>{kept ? "✔ " : "✕ "}</span>
                    {kept ? "kept" : "lost"}
                  </td>
                );
              })}
            </tr>
          ))}
          {ROWS.map((row) => (
            <tr key={row.name} className="border-t border-edge">
              <th scope="row" className="py-1.5 text-left font-normal">
                {row.name}
              </th>
              {all.map((one, number) => (
                <td key={number} className={`px-2 tabular-nums ${isBest(row, one, all) ? "font-bold text-good" : ""}`}>
                  {row.of(one).toFixed(row.digits)} {row.unit}
                  {isBest(row, one, all) && <span className="text-sm font-normal"> least</span>}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-t border-edge align-top">
            <th scope="row" className="py-2 text-left font-normal">
              In what it differs
            </th>
            {plans.map((one, number) => (
              <td key={number} className="px-2 py-2 text-sm leading-snug">
                {number === 0 ? "This is the plan as it stands." : one.differs.map((text) => <p key={text}>{text}</p>)}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}
