import { useQuery } from "@tanstack/react-query";

import { Button, Empty, Panel } from "../../../ui";
import { useAnswer, useDraft, Waiting } from "../../../rig";
import { alternativesQuery } from "../queries";
import { Compared } from "./compared";
import { PictureWays } from "./picture-ways";

/** Other plans for the same promises, side by side, and all the ways to each picture. */
export function AlternativesScreen() {
  const { rig, edit } = useDraft();
  const { isPlanning } = useAnswer();
  const query = useQuery({ ...alternativesQuery(rig), enabled: !isPlanning });
  const { data } = query;
  const pinned = (rig.pins ?? []).filter((pin) => pin.kind === "way").length;
  return (
    <div className="space-y-3">
      <Panel
        title="Other ways to keep the promises"
        actions={
          pinned > 0 && (
            <Button onClick={() => edit((now) => ({ ...now, pins: (now.pins ?? []).filter((pin) => pin.kind !== "way") }))}>
              Let the plan decide again
            </Button>
          )
        }
      >
        <Waiting name="alternatives" query={query} says="Looking for other plans" />
        {data?.length === 0 && <Empty title="No plan">Promise something that this rig can keep.</Empty>}
        {data && data.length > 0 && <Compared plans={data} />}
        {data?.length === 1 && <p className="mt-3 text-soft">There is no other way with what is here.</p>}
      </Panel>
      <PictureWays />
    </div>
  );
}
