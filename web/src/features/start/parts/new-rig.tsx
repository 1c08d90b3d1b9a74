import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type Dispatch, type SetStateAction } from "react";
import { useNavigate, useSearchParams } from "react-router";

import { Refusal, type Kit, type Rig } from "../../../api/client";
import {
  catalogueQuery,
  kitsQuery,
  LETTERS,
  Page,
  Problems,
  rigsQuery,
  Shelf,
  SKELETON,
  withDevice,
  withKit,
  withoutDevice,
} from "../../../rig";
import { Button, Choose, counted, Panel, TextField, today } from "../../../ui";
import { begun, freeLetter, jobAtHand, jobsOf, NO_JOB } from "../model";
import { examplesQuery, startRig } from "../queries";
import { useOpenExample } from "./examples";

type Case = Pick<Rig, "devices" | "bag"> & Partial<Rig>;

const EMPTY: Case = { devices: [], bag: [] };

/** A new rig: what it is called, and what lies in its case; from the shelf, a kit, an example or a rig that is there. */
export function NewRigScreen() {
  const { data: rigs } = useQuery(rigsQuery);
  const { data: kits } = useQuery(kitsQuery);
  const { data: catalogue } = useQuery(catalogueQuery);
  // What is offered depends on all: nothing is filled in before they are here, nothing typed is overwritten, and no
  // button moves away from under a finger.
  if (!rigs || !kits || !catalogue) return <Page here="/new">{null}</Page>;
  return <Form key="form" />;
}

function Form() {
  const { data: rigs = [] } = useQuery(rigsQuery);
  const { data: kits = [] } = useQuery(kitsQuery);
  const { data: catalogue } = useQuery(catalogueQuery);
  const [search] = useSearchParams();
  const copied = rigs.find((one) => one.document.id === search.get("copy"))?.document;
  const jobs = jobsOf(rigs);
  const first = copied?.production ?? jobAtHand(jobs, today())?.name ?? "";
  const [name, setName] = useState("");
  const [job, setJob] = useState(first === NO_JOB ? "" : first);
  const [letter, setLetter] = useState<string>();
  const [inside, setInside] = useState<Case>(copied ?? EMPTY);
  const client = useQueryClient();
  const go = useNavigate();
  const camera = letter ?? freeLetter(jobs.find((one) => one.name === (job.trim() || NO_JOB)));
  const wanted = { name, camera, job, day: "" };
  // A case without a cable keeps no promise: those of the kit come along, and what is not there can be taken out.
  const cablesFrom = inside.bag.length === 0 ? kits[0]?.document : undefined;
  const example = useOpenExample();
  const start = useMutation({
    mutationFn: () => {
      const rig = begun(inside, wanted);
      return startRig(cablesFrom ? withKit(rig, cablesFrom) : rig);
    },
    onSuccess: (saved) => {
      void client.invalidateQueries({ queryKey: rigsQuery.queryKey });
      void go(`/rigs/${saved.document.id}`);
    },
  });
  return (
    <Page here="/new">
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]">
        <Panel className="lg:sticky lg:top-3" title={copied ? `A copy of ${copied.name}` : "New rig"}>
          <form
            className="space-y-3"
            onSubmit={(event) => {
              event.preventDefault();
              start.mutate();
            }}
          >
            <div className="flex flex-wrap gap-2">
              <TextField
                maxLength={100}
                label="Job"
                value={job}
                placeholder="such as Night ferry"
                known={jobs.map((one) => one.name).filter((one) => one !== NO_JOB)}
                onChange={setJob}
              />
              <span className="block">
                <span aria-hidden className="block text-sm text-soft">
                  Camera
                </span>
                <Choose
                  label="Camera"
                  value={camera}
                  choices={LETTERS.map((value) => ({ value, label: `${value} camera` }))}
                  onChange={setLetter}
                />
              </span>
            </div>
            <TextField maxLength={100} label="Name" value={name} placeholder={begun(EMPTY, wanted).name} onChange={setName} />
            <InTheCase inside={inside} catalogue={catalogue} onChange={setInside} />
            {cablesFrom && <p className="text-soft">The cables of {cablesFrom.name} come along.</p>}
            <Button weight="lead" type="submit" disabled={start.isPending} className="w-full">
              {inside.devices.length === 0 ? "Begin with an empty case" : `Begin with ${counted(inside.devices.length, "device")}`}
            </Button>
            {[start.error, example.error].map((error) => error instanceof Refusal && <Problems key={error.message} refusal={error} />)}
          </form>
        </Panel>
        <FromTheShelf inside={inside} onInside={setInside} onExample={example.mutate} />
      </div>
    </Page>
  );
}

/** What a case can be filled from: a kit, a rig that is there, an example, or the shelf a piece at a time. */
function FromTheShelf({
  inside,
  onInside,
  onExample,
}: {
  inside: Case;
  onInside: Dispatch<SetStateAction<Case>>;
  onExample: (id: string) => void;
}) {
  const { data: rigs = [] } = useQuery(rigsQuery);
  const { data: kits = [] } = useQuery(kitsQuery);
  const { data: examples = [] } = useQuery(examplesQuery);
  return (
    <Panel title="From the shelf">
      <div className="mb-3 flex flex-wrap gap-2">
        {kits.map(({ document: kit }) => (
          <Button key={kit.id} onClick={() => onInside(wholeKit(kit))}>
            All of {kit.name}
          </Button>
        ))}
        {rigs.length > 0 && (
          <Choose
            label="Copy of"
            value=""
            choices={[{ value: "", label: "A copy of a rig" }, ...rigs.map(({ document: rig }) => ({ value: rig.id, label: rig.name }))]}
            onChange={(id) => {
              const rig = rigs.find((one) => one.document.id === id)?.document;
              if (rig) onInside(rig);
            }}
          />
        )}
        <Choose
          label="From an example"
          value=""
          choices={[{ value: "", label: "An example" }, ...examples.map((one) => ({ value: one.id, label: `${one.number} ${one.name}` }))]}
          onChange={(id) => id && onExample(id)}
        />
      </div>
      <Shelf
        have={inside.devices.map((device) => device.profile)}
        onTake={(piece) => onInside((now) => withDevice({ promises: [], ...now } as unknown as Rig, piece))}
      />
    </Panel>
  );
}

/** Every piece of a kit, with its cables. */
function wholeKit(kit: Kit): Case {
  const pieces = (kit.devices ?? []).flatMap((piece) => Array.from({ length: piece.count ?? 1 }, () => piece)).slice(0, 60);
  const full = pieces.reduce((rig, piece) => withDevice(rig, piece), { ...EMPTY, promises: [] } as unknown as Rig);
  return withKit(full, kit);
}

type Kinds = { profiles: { id: string; name: string; like: string }[] };

/** What lies in the case so far, and what most rigs have that is not there yet. */
function InTheCase({ inside, catalogue, onChange }: { inside: Case; catalogue: Kinds | undefined; onChange: (inside: Case) => void }) {
  const profiles = new Map(catalogue?.profiles.map((one) => [one.id, one]));
  const kinds = new Set(inside.devices.map((device) => profiles.get(device.profile)?.like ?? ""));
  const missing = SKELETON.filter((one) => !one.kinds.some((kind) => kinds.has(kind))).map((one) => one.name);
  return (
    <section aria-label="In the case">
      <h3 className="font-semibold">In the case</h3>
      <ul>
        {inside.devices.map((device) => {
          const called = device.name ?? profiles.get(device.profile)?.name ?? device.profile;
          return (
            <li key={device.id} className="flex items-center gap-2 border-b border-edge">
              <span className="min-w-0 flex-1 leading-tight">
                {called}
                {device.tag && <span className="text-soft">, {device.tag}</span>}
              </span>
              <Button
                weight="quiet"
                aria-label={`Put back: ${called}`}
                onClick={() => onChange(withoutDevice({ promises: [], ...inside } as unknown as Rig, device.id))}
              >
                Put back
              </Button>
            </li>
          );
        })}
      </ul>
      <p className="mt-2 text-soft">
        {missing.length > 0
          ? `Most rigs also have ${missing.join(", ")}. Nothing is forced: it can come later.`
          : "Body, lens, gimbal, link and monitor are there."}
      </p>
    </section>
  );
}
