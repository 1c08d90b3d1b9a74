import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Face } from "../../../api/client";
import { catalogueQuery, Page } from "../../../rig";
import { Empty, FileButton, Panel } from "../../../ui";
import { checkQuery } from "../queries";
import { useSketched } from "../use-sketched";
import { Begin } from "./begin";
import { Checked } from "./checked";
import { Drawing } from "./drawing";
import { Functions } from "./functions";
import { Heading } from "./heading";
import { OwnDevices } from "./own-devices";
import { OwnWords } from "./own-words";
import { Settings } from "./settings";
import { TryIt } from "./try-it";

/** The face that was drawn last of a device: a draft with a flaw in it has none, and what was drawn stays in sight. */
function useLast(of: string | undefined, now: Face | null | undefined): Face | null | undefined {
  const [last, setLast] = useState<{ of: string | undefined; face: Face | null | undefined }>({ of, face: now });
  if (now && (last.of !== of || last.face !== now)) setLast({ of, face: now });
  return now ?? (last.of === of ? last.face : undefined);
}

/** Make a device of one's own from an archetype: ports in a drawing of it, functions, settings; checked as it is made. */
export function WorkshopScreen() {
  const { data: catalogue } = useQuery(catalogueQuery);
  const at = useSketched();
  const draft = at.sketch?.profile;
  const { data: checked } = useQuery(checkQuery(draft));
  const face = useLast(draft?.id, checked?.face);
  const bring = (
    <FileButton
      label="Profile pack"
      accept=".yaml,.yml,.json"
      onChosen={(file) => void file.text().then((text) => at.keep.mutate({ text, file: file.name }))}
    >
      Bring in a pack
    </FileButton>
  );
  return (
    <Page here="/workshop" actions={bring}>
      <Begin at={at} catalogue={catalogue} />
      {!draft && (
        <>
          <Panel>
            <Empty title="Nothing on the bench">Choose the archetype that is nearest to your device, then change what differs.</Empty>
          </Panel>
          <OwnDevices onChange={(profile, revision) => at.setSketch({ profile, kept: { id: profile.id, revision }, isSafe: true })} />
          {catalogue && catalogue.words.length > 0 && <OwnWords words={catalogue.words} />}
        </>
      )}
      {draft && (
        <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <div className="space-y-3">
            <Heading draft={draft} isKept={at.isKept} catalogue={catalogue} onChange={at.change} />
            <Drawing draft={draft} face={face} catalogue={catalogue} onChange={at.change} />
            <Functions draft={draft} catalogue={catalogue} onChange={at.change} />
            <Settings draft={draft} onChange={at.change} />
          </div>
          <div className="space-y-3 lg:sticky lg:top-3">
            <Checked checked={checked} draft={draft} busy={at.keep.isPending} onKeep={at.keepDraft} />
            <TryIt draft={draft} ready={checked !== undefined && checked.problems.length === 0} />
          </div>
        </div>
      )}
    </Page>
  );
}
