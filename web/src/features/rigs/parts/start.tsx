import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useNavigate } from "react-router";

import { Refusal, type Saved } from "../../../api/client";
import { Button, Empty, Panel, useTheme } from "../../../ui";
import { addRig, rigsQuery } from "../queries";
import { Problems } from "./problems";

/** The first page: the rigs of the day, and a place to bring one in from a file. */
export function Start() {
  const { data: rigs, error } = useQuery(rigsQuery);
  const [theme, turn] = useTheme();
  return (
    <main className="mx-auto flex min-h-screen max-w-5xl flex-col gap-6 p-6">
      <header className="flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1 className="text-4xl font-bold tracking-tight">Isotact</h1>
          <p className="mt-1 text-lg text-soft">Will everything that was promised work, and how?</p>
        </div>
        <Button onClick={turn}>{theme === "night" ? "Day colours" : "Night colours"}</Button>
      </header>
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      <Panel title="Rigs of the day">
        {rigs?.length === 0 && (
          <Empty title="No rig yet">Bring in a rig document below, or stop the server and run the demo.</Empty>
        )}
        <ul className={`grid gap-3 ${rigs && rigs.length > 1 ? "lg:grid-cols-2" : ""}`}>
          {rigs?.map((saved) => (
            <li key={saved.document.id}>
              <RigCard saved={saved} />
            </li>
          ))}
        </ul>
      </Panel>
      <BringIn />
    </main>
  );
}

function RigCard({ saved }: { saved: Saved }) {
  const rig = saved.document;
  return (
    <Link
      to={`/rigs/${rig.id}/promises`}
      className="flex min-h-24 items-start gap-4 rounded-lg border border-edge bg-raised p-4 hover:border-lead"
    >
      <span aria-hidden className="flex size-14 items-center justify-center rounded-md bg-lead text-3xl font-bold text-on-lead">
        {rig.camera}
      </span>
      <span>
        <span className="block text-lg font-semibold">{rig.name}</span>
        <span className="text-soft">
          {rig.promises.length} promises to {[...new Set(rig.promises.map((promise) => promise.who))].join(", ") || "nobody yet"};
          revision {saved.revision}
        </span>
        <span className="mt-2 block">{rig.devices.map((device) => device.name ?? device.profile).join(", ")}</span>
        {rig.note && <span className="mt-1 block text-soft">{rig.note}</span>}
      </span>
    </Link>
  );
}

/** Bring a rig in from a file. It is refused whole, with every error at its line. */
function BringIn() {
  const client = useQueryClient();
  const go = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const add = useMutation({
    mutationFn: async (chosen: File) => {
      if (chosen.size > 1_000_000) {
        const words = `found ${chosen.size.toLocaleString("en")} bytes; a document has at most 1,000,000.`;
        const problem = { code: "too-large", path: "", message: words, hint: "", file: chosen.name, line: null };
        throw new Refusal(422, { code: "too-large", message: words, path: "", hint: "", problems: [problem] });
      }
      return addRig(await chosen.text(), chosen.name);
    },
    onSuccess: (saved) => {
      void client.invalidateQueries({ queryKey: rigsQuery.queryKey });
      void go(`/rigs/${saved.document.id}/promises`);
    },
  });
  return (
    <Panel title="Bring in a rig">
      <p className="mb-3 text-soft">A rig document in YAML or JSON. If anything in it is wrong, nothing is taken in.</p>
      <input
        ref={file}
        type="file"
        accept=".yaml,.yml,.json"
        aria-label="Rig document"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) add.mutate(chosen);
          event.target.value = "";
        }}
      />
      <Button weight="lead" disabled={add.isPending} onClick={() => file.current?.click()}>
        {add.isPending ? "Reading" : "Choose a file"}
      </Button>
      {add.error && <Problems refusal={add.error instanceof Refusal ? add.error : undefined} />}
    </Panel>
  );
}
