import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";

import { Refusal, type Profile } from "../../../api/client";
import { Button, Choose, Empty, FileButton, Panel } from "../../../ui";
import { useSketch } from "../../../keeping";
import { catalogueQuery, Page, Problems } from "../../../rig";
import { copyOf } from "../model";
import { checkQuery, headsOfOwn, keepPack, profileOf } from "../queries";
import { Drawing } from "./drawing";
import { Checked } from "./checked";
import { Functions } from "./functions";
import { Heading } from "./heading";
import { Settings } from "./settings";
import { OwnDevices } from "./own-devices";
import { OwnWords } from "./own-words";
import { TryIt } from "./try-it";

type Sketch = { profile: Profile; kept?: { id: string; revision: number }; isSafe?: boolean };
type ToKeep = { text: string; file: string; over?: Record<string, number> };

/** Make a device of one's own from an archetype: ports in a drawing of it, functions, settings; checked as it is made. */
export function WorkshopScreen() {
  const { data: catalogue } = useQuery(catalogueQuery);
  const client = useQueryClient();
  // What is worked at, and in which revision it is kept, if it is: it becomes the next one of that, and of nothing else.
  const [sketch, setSketch] = useSketch<Sketch>("workshop/device");
  const [putDown, setPutDown] = useState<Sketch>();
  const draft = sketch?.profile;
  const kept = sketch?.kept;
  const setDraft = (profile: Profile) => setSketch({ ...sketch, profile, isSafe: false });
  const [search] = useSearchParams();
  const [chosen, setChosen] = useState(search.get("from") ?? "");
  const backTo = search.get("rig");
  const { data: checked } = useQuery(checkQuery(draft));
  const start = useMutation({
    mutationFn: profileOf,
    onSuccess: (profile) => setSketch({ profile: copyOf(profile, catalogue?.profiles.map((one) => one.id) ?? []) }),
  });
  const keep = useMutation({
    mutationFn: ({ text, file, over }: ToKeep) => keepPack(text, file, over),
    onSuccess: ({ revisions }, { text }) => {
      const revision = draft && revisions[draft.id];
      // What was changed while it was on its way is not kept yet; what was kept before is, whatever came in on top of it.
      if (draft && revision)
        setSketch({ profile: draft, kept: { id: draft.id, revision }, isSafe: sketch.isSafe || text === JSON.stringify(draft) });
      // Every plan, matrix and answer kept in this page was made with the catalogue before.
      client.removeQueries({ type: "inactive" });
      return Promise.all([["catalogue"], ["own"]].map((queryKey) => client.invalidateQueries({ queryKey })));
    },
  });
  const replace = useMutation({
    mutationFn: async (what: ToKeep) => keep.mutateAsync({ ...what, over: await headsOfOwn() }),
  });
  const refused = [replace.error, keep.error].find((one) => one instanceof Refusal);
  const archetypes = catalogue?.profiles.map((one) => ({ value: one.id, label: one.name, note: one.kind_name })) ?? [];
  const body = catalogue?.profiles.find((one) => one.like === "camera-body");
  const from = chosen || (body?.id ?? archetypes[0]?.value ?? "");
  const bring = (
    <FileButton
      label="Profile pack"
      accept=".yaml,.yml,.json"
      onChosen={(file) => void file.text().then((text) => keep.mutate({ text, file: file.name }))}
    >
      Bring in a pack
    </FileButton>
  );
  return (
    <Page here="/workshop" actions={bring}>
      <Panel title="Make a device from an archetype" className="mb-3">
        <div className="flex flex-wrap items-center gap-2">
          <Choose label="Archetype" value={from} choices={archetypes} onChange={setChosen} className="min-w-72 flex-1" />
          <Button weight={draft ? "plain" : "lead"} disabled={!from || start.isPending} onClick={() => start.mutate(from)}>
            {draft ? "Start over from this" : "Start from this"}
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
      </Panel>
      {!draft && (
        <Panel>
          <Empty title="Nothing on the bench">Choose the archetype that is nearest to your device, then change what differs.</Empty>
        </Panel>
      )}
      {!draft && <OwnDevices onChange={(profile, revision) => setSketch({ profile, kept: { id: profile.id, revision }, isSafe: true })} />}
      {!draft && catalogue && catalogue.words.length > 0 && <OwnWords words={catalogue.words} />}
      {draft && (
        <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <div className="space-y-3">
            <Heading draft={draft} isKept={kept?.id === draft.id} catalogue={catalogue} onChange={setDraft} />
            <Drawing draft={draft} catalogue={catalogue} onChange={setDraft} />
            <Functions draft={draft} catalogue={catalogue} onChange={setDraft} />
            <Settings draft={draft} onChange={setDraft} />
          </div>
          <div className="space-y-3 lg:sticky lg:top-3">
            <Checked
              checked={checked}
              draft={draft}
              busy={keep.isPending}
              onKeep={() =>
                keep.mutate({ text: JSON.stringify(draft), file: "", over: kept?.id === draft.id ? { [kept.id]: kept.revision } : {} })
              }
            />
            <TryIt draft={draft} ready={checked !== undefined && checked.problems.length === 0} />
          </div>
        </div>
      )}
    </Page>
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
