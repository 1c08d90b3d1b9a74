import { useMemo, useState } from "react";

import type { RigPromise } from "../../../api/client";
import { Button, Empty, Panel, useShortcuts } from "../../../ui";
import { useAnswer, useDraft } from "../../../rig";
import { byPerson, newPromise, surfacesOf } from "../model";
import { Bag } from "./bag";
import { PromiseCard } from "./card";
import { PersonName } from "./person";

const KINDS: { kind: RigPromise["kind"]; name: string }[] = [
  { kind: "control", name: "a control" },
  { kind: "picture", name: "a picture" },
  { kind: "power", name: "hours of power" },
];

/** Who needs what: edited in place, planned again as it is typed. */
export function PromisesScreen() {
  const { rig, edit } = useDraft();
  const { catalogue } = useAnswer();
  const surfaces = useMemo(() => surfacesOf(rig, catalogue), [catalogue, rig]);
  const [who, setWho] = useState("");
  const add = (kind: RigPromise["kind"], person: string) =>
    edit((now) => {
      const promise = newPromise(kind, now, surfaces, person || "Operator");
      return promise ? { ...now, promises: [...now.promises, promise] } : now;
    });
  useShortcuts(useMemo(() => [{ keys: "n", does: "Promise more", run: () => document.getElementById("who")?.focus() }], []));
  return (
    <div className="grid gap-3 lg:h-full lg:grid-cols-[minmax(0,1fr)_19.5rem]">
      <Panel title="Who needs what" scroll>
        {rig.promises.length === 0 && (
          <Empty title="Nothing is promised yet">
            Write below who needs something, then choose what: a control, a picture, or hours of power.
          </Empty>
        )}
        {byPerson(rig).map(([person, promises]) => (
          <section key={person} className="mb-3">
            <h3>
              <PersonName person={person} />
            </h3>
            <ul className="space-y-2">
              {promises.map((promise) => (
                <PromiseCard key={promise.id} promise={promise} surfaces={surfaces} />
              ))}
            </ul>
          </section>
        ))}
        <form className="flex flex-wrap items-center gap-2 border-t border-edge pt-3" onSubmit={(event) => event.preventDefault()}>
          <label htmlFor="who">Promise to</label>
          <input
            id="who"
            list="people"
            value={who}
            maxLength={60}
            placeholder="Operator"
            onChange={(event) => setWho(event.target.value)}
            className="min-h-11 w-40 rounded-md border border-edge bg-ground px-3 placeholder:text-soft"
          />
          <datalist id="people">
            {[...new Set(rig.promises.map((promise) => promise.who))].map((person) => (
              <option key={person} value={person} />
            ))}
          </datalist>
          {KINDS.map(({ kind, name }) => (
            <Button key={kind} onClick={() => add(kind, who.trim())}>
              {name}
            </Button>
          ))}
        </form>
      </Panel>
      <Bag />
    </div>
  );
}
