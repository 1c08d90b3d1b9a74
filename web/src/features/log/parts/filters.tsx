import { useQuery } from "@tanstack/react-query";

import type { Rig } from "../../../api/client";
import { deviceName } from "../../../rig";
import { Button, Choose, SearchField } from "../../../ui";
import { saysOf } from "../model";
import { choicesQuery, type Wanted } from "../queries";

const ALL = { value: "", label: "" };

/** What of the book is shown: words first, then by rig, device, person and kind. */
export function Filters({ rigs, wanted, onWanted }: { rigs: readonly Rig[]; wanted: Wanted; onWanted: (wanted: Wanted) => void }) {
  const { data } = useQuery(choicesQuery);
  const rig = rigs.find(({ id }) => id === wanted.rig);
  const only = (part: Partial<Wanted>) => onWanted({ ...wanted, ...part });
  const any = Object.values(wanted).some(Boolean);
  return (
    <div className="mb-3 flex flex-wrap gap-2 print:hidden">
      <SearchField
        label="Words in the log book"
        placeholder="Words, such as “violet lamp”"
        value={wanted.words ?? ""}
        onChange={(words) => only({ words: words || undefined })}
        className="min-w-60 flex-1"
      />
      <Choose
        label="Rig"
        value={wanted.rig ?? ""}
        choices={[{ ...ALL, label: "Every rig" }, ...rigs.map(({ id, name }) => ({ value: id, label: name }))]}
        onChange={(value) => only({ rig: value || undefined, device: undefined })}
      />
      {rig && (
        <Choose
          label="Device"
          value={wanted.device ?? ""}
          choices={[{ ...ALL, label: "Every device" }, ...rig.devices.map(({ id }) => ({ value: id, label: deviceName(rig, id) }))]}
          onChange={(value) => only({ device: value || undefined })}
        />
      )}
      <Choose
        label="Person"
        value={wanted.person ?? ""}
        choices={[{ ...ALL, label: "Everybody" }, ...(data?.people ?? []).map((name) => ({ value: name, label: name }))]}
        onChange={(value) => only({ person: value || undefined })}
      />
      <Choose
        label="Kind"
        value={wanted.what ?? ""}
        choices={[{ ...ALL, label: "Every kind" }, ...(data?.kinds ?? []).map((kind) => ({ value: kind, label: saysOf(kind) }))]}
        onChange={(value) => only({ what: value || undefined })}
      />
      <Button
        aria-pressed={Boolean(wanted.with_photo)}
        className={wanted.with_photo ? "border-2 border-lead font-semibold" : ""}
        onClick={() => only({ with_photo: wanted.with_photo ? undefined : true })}
      >
        With a photo
      </Button>
      {any && (
        <Button weight="quiet" onClick={() => onWanted({})}>
          All of it
        </Button>
      )}
    </div>
  );
}
