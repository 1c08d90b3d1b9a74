import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Saved } from "../../../api/client";
import { deviceName, PhotoButton, Problems, useMe, usePerson } from "../../../rig";
import { Button, Choose, Panel, TextArea } from "../../../ui";
import { note } from "../queries";

/** A note about a rig or one of its devices, with photos. What is written stays in the field until it is in the book. */
export function WriteNote({ rigs }: { rigs: readonly Saved[] }) {
  const [person] = usePerson();
  const { mayTick } = useMe();
  const [chosen, setChosen] = useState<string>();
  const [device, setDevice] = useState("");
  const [text, setText] = useState("");
  const [photos, setPhotos] = useState<string[]>([]);
  const client = useQueryClient();
  const saved = rigs.find(({ document }) => document.id === chosen) ?? rigs[0];
  const write = useMutation({
    mutationFn: (about: Saved) => note(about.document.id, about.revision, { subject: device, reason: text.trim(), photos, person }),
    onSuccess: () => {
      setText("");
      setPhotos([]);
      return client.invalidateQueries({ queryKey: ["log"] });
    },
  });
  if (!saved || !mayTick) return null;
  const rig = saved.document;
  return (
    <Panel title="Write a note">
      <div className="space-y-2">
        <div className="flex flex-wrap gap-2">
          <Choose
            label="Note about the rig"
            value={rig.id}
            choices={rigs.map(({ document }) => ({ value: document.id, label: document.name }))}
            onChange={(id) => {
              setChosen(id);
              setDevice("");
            }}
            className="flex-1"
          />
          <Choose
            label="Note about the device"
            value={device}
            choices={[{ value: "", label: "the whole rig" }, ...rig.devices.map(({ id }) => ({ value: id, label: deviceName(rig, id) }))]}
            onChange={setDevice}
            className="flex-1"
          />
        </div>
        <TextArea
          aria-label="Note"
          value={text}
          maxLength={4000}
          rows={3}
          placeholder="What the next shift should know"
          onChange={(event) => setText(event.target.value)}
        />
        <PhotoButton photos={photos} onPhotos={setPhotos} />
        <Button
          weight="lead"
          className="w-full"
          disabled={write.isPending || (!text.trim() && photos.length === 0)}
          onClick={() => write.mutate(saved)}
        >
          Put it in the book
        </Button>
        {write.error && <Problems refusal={write.error instanceof Refusal ? write.error : undefined} />}
      </div>
    </Panel>
  );
}
