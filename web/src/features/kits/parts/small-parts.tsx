import { useQuery } from "@tanstack/react-query";

import type { Kit } from "../../../api/client";
import { Button } from "../../../ui";
import { catalogueQuery, PartList } from "../../../rig";

/** Screws, rods, arms and keys that the crew has. */
export function SmallParts({ kit, onChange }: { kit: Kit; onChange: (kit: Kit) => void }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const isSaid = kit.parts != null;
  return (
    <section aria-label="Small parts" className="mt-4">
      <h3 className="font-semibold">Small parts</h3>
      {!isSaid && <p className="text-soft">Nobody said which screws, rods and arms there are: none is asked for on the day.</p>}
      <Button className="my-2" onClick={() => onChange({ ...kit, parts: isSaid ? null : [] })}>
        {isSaid ? "Nobody has looked" : "Say what is there"}
      </Button>
      {isSaid && (
        <PartList
          label="Small parts of the kit"
          parts={kit.parts ?? []}
          known={catalogue?.small_parts ?? {}}
          most={99}
          onChange={(parts) => onChange({ ...kit, parts })}
        />
      )}
    </section>
  );
}
