import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Profile } from "../../../api/client";
import { Problems } from "../../../rig";
import { Button, Panel } from "../../../ui";
import { bringProfileBack, dropProfile, ownProfilesQuery, undoProfile } from "../queries";

type Props = { onChange: (profile: Profile, revision: number) => void };

/** The devices of one's own: each can be changed, gone back on, and taken off as long as nothing uses it. */
export function OwnDevices({ onChange }: Props) {
  const client = useQueryClient();
  const { data } = useQuery(ownProfilesQuery);
  const [gone, setGone] = useState<Profile>();
  const afresh = () => Promise.all([["own"], ["catalogue"]].map((queryKey) => client.invalidateQueries({ queryKey })));
  const drop = useMutation({
    mutationFn: async (profile: Profile) => {
      await dropProfile(profile.id);
      setGone(profile);
    },
    onSuccess: afresh,
  });
  const back = useMutation({
    mutationFn: async (profile: Profile) => {
      await bringProfileBack(profile.id);
      setGone(undefined);
    },
    onSuccess: afresh,
  });
  const undo = useMutation({ mutationFn: ({ id, madeOn }: { id: string; madeOn: number }) => undoProfile(id, madeOn), onSuccess: afresh });
  const refused = [drop.error, back.error, undo.error].find((one) => one instanceof Refusal);
  if (!data?.length && !gone) return null;
  return (
    <Panel title="Devices of your own" className="mt-3">
      {/* Above the rows: it does not move away under the finger when the row of the device goes. */}
      {gone && (
        <p role="status" className="mb-2 flex flex-wrap items-center gap-3">
          <span className="min-w-0 flex-1">{gone.name} is taken off. Its history is kept.</span>
          <Button disabled={back.isPending} onClick={() => back.mutate(gone)}>
            Bring it back
          </Button>
        </p>
      )}
      <ul className="space-y-2">
        {data?.map(({ document: profile, revision, can_undo: canUndo }) => (
          <li key={profile.id} className="flex flex-wrap items-center gap-2 border-b border-edge pb-2">
            <span className="min-w-0 flex-1">
              <b className="block">{profile.name}</b>
              <span className="text-sm text-soft">revision {revision}</span>
            </span>
            <Button aria-label={`Change ${profile.name}`} onClick={() => onChange(profile as Profile, revision)}>
              Change it
            </Button>
            <Button
              aria-label={`Undo the last change of ${profile.name}`}
              disabled={!canUndo || undo.isPending}
              onClick={() => undo.mutate({ id: profile.id, madeOn: revision })}
            >
              Undo
            </Button>
            <Button aria-label={`Take off ${profile.name}`} disabled={drop.isPending} onClick={() => drop.mutate(profile as Profile)}>
              Take off
            </Button>
          </li>
        ))}
      </ul>
      <Problems refusal={refused} />
    </Panel>
  );
}
