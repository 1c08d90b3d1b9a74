import { useQuery } from "@tanstack/react-query";

import { deviceName, kitsQuery, PartList, useAnswer, useDraft } from "../../../rig";
import { Button, Panel } from "../../../ui";
import { fixings, withParts } from "../model";

/** Screws, rods, arms and keys: what the devices take to be fixed, and what of it lies in the bag. */
export function SmallParts() {
  const { rig, edit } = useDraft();
  const { catalogue, answer } = useAnswer();
  const wanted = fixings(rig, catalogue?.profiles ?? []);
  const { data: kits } = useQuery(kitsQuery);
  const stocked = (kits ?? []).filter((one) => one.document.parts != null);
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
      {stocked.map(({ document }) => (
        <Button key={document.id} className="mb-2" onClick={() => edit((now) => withParts(now, [...(document.parts ?? [])]))}>
          As in {document.name}
        </Button>
      ))}
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
        <PartList
          label="Small parts in the bag"
          parts={rig.parts ?? []}
          known={catalogue?.small_parts ?? {}}
          most={99}
          onChange={(parts) => edit((now) => withParts(now, parts))}
        />
      )}
    </Panel>
  );
}
