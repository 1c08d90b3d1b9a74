import { deviceName, useAnswer, useDraft } from "../../../rig";
import { Button, Panel } from "../../../ui";
import { fixings, withPart, withParts } from "../model";

/** Screws, rods, arms and keys: what the devices take to be fixed, and what of it lies in the bag. */
export function SmallParts() {
  const { rig, edit } = useDraft();
  const { catalogue, answer } = useAnswer();
  const wanted = fixings(rig, catalogue?.profiles ?? []);
  const isSaid = rig.parts != null;
  return (
    <Panel
      title="Small parts"
      className="shrink-0"
      actions={
        <Button onClick={() => edit((now) => withParts(now, isSaid ? null : []))}>
          {isSaid ? "Nobody has looked" : "Say what is there"}
        </Button>
      }
    >
      {!isSaid && <p className="text-soft">Nobody said which screws, rods and arms lie in the bag: nothing is refused for want of one.</p>}
      {wanted.length > 0 && (
        <details open={isSaid}>
          <summary className="flex min-h-11 cursor-pointer items-center font-semibold">What the devices take</summary>
          <ul>
            {wanted.map(({ id, words }) => (
              <li key={id} className="border-b border-edge py-1 leading-snug last:border-0">
                <b>{deviceName(rig, id, answer)}</b>: {words.join(", and ")}
              </li>
            ))}
          </ul>
        </details>
      )}
      {isSaid && (
        <ul aria-label="Small parts in the bag">
          {Object.entries(catalogue?.small_parts ?? {}).map(([part, name]) => {
            const count = rig.parts?.find((one) => one.part === part)?.count ?? 0;
            return (
              <li key={part} className="flex items-center gap-2 border-b border-edge py-1 last:border-0">
                <span className={`min-w-0 flex-1 leading-tight ${count === 0 ? "text-soft" : ""}`}>{name}</span>
                <Button
                  aria-label={`Take one out: ${name}`}
                  disabled={count === 0}
                  onClick={() => edit((now) => withPart(now, part, count - 1))}
                >
                  −
                </Button>
                <span className="w-6 text-center text-lg font-semibold tabular-nums">{count}</span>
                <Button
                  aria-label={`Put one in: ${name}`}
                  disabled={count >= 99}
                  onClick={() => edit((now) => withPart(now, part, count + 1))}
                >
                  +
                </Button>
              </li>
            );
          })}
        </ul>
      )}
    </Panel>
  );
}
