import { useState } from "react";
import { Link, useSearchParams } from "react-router";

import type { Catalogue } from "../../../api/client";
import { Problems } from "../../../rig";
import { Button, Choose, Panel } from "../../../ui";
import type { Sketch, Sketched } from "../use-sketched";

/** From which archetype a device is begun, and whether what is on the table is kept. */
export function Begin({ at, catalogue }: { at: Sketched; catalogue: Catalogue | undefined }) {
  const { sketch, setSketch, start } = at;
  const [putDown, setPutDown] = useState<Sketch>();
  const [search] = useSearchParams();
  const [chosen, setChosen] = useState(search.get("from") ?? "");
  const archetypes = catalogue?.profiles.map((one) => ({ value: one.id, label: one.name, note: one.kind_name })) ?? [];
  const body = catalogue?.profiles.find((one) => one.like === "camera-body");
  const from = chosen || (body?.id ?? archetypes[0]?.value ?? "");
  return (
    <Panel title="Make a device from an archetype" className="mb-3">
      <div className="flex flex-wrap items-center gap-2">
        <Choose label="Archetype" value={from} choices={archetypes} onChange={setChosen} className="min-w-72 flex-1" />
        <Button weight={sketch ? "plain" : "lead"} disabled={!from || start.isPending} onClick={() => start.mutate(from)}>
          {sketch ? "Start over from this" : "Start from this"}
        </Button>
        {sketch && (
          <Button
            onClick={() => {
              setPutDown(sketch);
              setSketch(undefined);
            }}
          >
            Put it down
          </Button>
        )}
        {sketch && (
          <span className="text-soft">{sketch.isSafe ? "Kept as it stands." : "Not kept yet: this browser holds it until it is."}</span>
        )}
        {!sketch && putDown && <Button onClick={() => setSketch(putDown)}>Take {putDown.profile.name} up again</Button>}
      </div>
      <WasKept at={at} backTo={search.get("rig")} />
    </Panel>
  );
}

/** What came of keeping it. */
function WasKept({ at: { keep, replace, refused }, backTo }: { at: Sketched; backTo: string | null }) {
  return (
    <>
      {keep.error && <Problems refusal={refused} />}
      {refused && (refused.answer.code === "kept-already" || refused.status === 409) && keep.variables && (
        <Button className="mt-2" disabled={replace.isPending} onClick={() => keep.variables && replace.mutate(keep.variables)}>
          Keep mine as the next revision
        </Button>
      )}
      {keep.data && (
        <p role="status" className="mt-2 font-semibold text-good">
          ✔ Kept: {[...keep.data.words, ...keep.data.profiles, ...keep.data.cables].join(", ")}. It can be used in any rig now.
          {backTo && keep.data.profiles[0] && <BackToRig rig={backTo} profile={keep.data.profiles[0]} />}
        </p>
      )}
    </>
  );
}

/** The way back to the rig that missed the device: it is taken there at once. */
function BackToRig({ rig, profile }: { rig: string; profile: string }) {
  return (
    <Link to={`/rigs/${rig}/case?take=${profile}`} className="ml-3 inline-flex min-h-11 items-center rounded-md bg-lead px-4 text-on-lead">
      Take it into the rig
    </Link>
  );
}
