import { Button, Panel } from "../../../ui";
import { sideBySide, watch, type ExerciseLine, type ExerciseState } from "../model";

type Step = { kind: "look" | "mend"; says: string; seen: string; seconds: number };

/** What it was, how many points, and both ways side by side. */
export function Over({ exercise, state, onLeave }: { exercise: ExerciseLine; state: ExerciseState; onLeave: () => void }) {
  const finder = state.finder;
  return (
    <Panel
      className="h-full"
      title={state.status === "mended" ? `Found: ${state.points} of 100 points` : "Given up"}
      actions={
        <span className="flex items-center gap-3">
          <span className="text-soft">
            The same for somebody else: <b className="text-ink tabular-nums">{exercise.code}</b>
          </span>
          <Button weight="lead" onClick={onLeave}>
            Another
          </Button>
        </span>
      }
      scroll
    >
      <ul aria-label="It was" className="mb-3 text-lg leading-snug font-semibold">
        {(state.was ?? []).map((one) => (
          <li key={one} className="first-letter:uppercase">
            {one}
          </li>
        ))}
      </ul>
      {finder && (
        <table className="w-full table-fixed border-collapse text-left">
          <thead>
            <tr>
              <th className="border-b border-edge py-2">
                Your way: {watch(state.seconds)}, {state.looks} looks{state.undoes_s > 0 && `, ${Math.round(state.undoes_s)} s undone`}
              </th>
              <th className="border-b border-edge py-2">
                The finder's: {watch(finder.seconds)}, {finder.looks} looks
                {finder.undoes_s > 0 && `, ${Math.round(finder.undoes_s)} s undone`}
              </th>
            </tr>
          </thead>
          <tbody>
            {sideBySide<Step, Step>(state.told, finder.steps).map(([own, other], row) => (
              <tr key={row} className="align-top">
                <Cell step={own} />
                <Cell step={other} />
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Panel>
  );
}

function Cell({ step }: { step: Step | undefined }) {
  return (
    <td className="border-b border-edge py-1.5 pr-3 leading-tight">
      {step && (
        <>
          <span className="text-sm text-soft">
            {step.kind === "mend" && "Mended: "}
            {step.says} {watch(step.seconds)}
          </span>
          <b className="block first-letter:uppercase">{step.seen}</b>
        </>
      )}
    </td>
  );
}
