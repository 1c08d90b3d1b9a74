import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { CablePlugs, cablesLaid, kitsQuery, useAnswer, useDraft, withCables, withKit } from "../../../rig";
import { Button, Empty, familyToken, Panel, SearchField } from "../../../ui";
import { findCables } from "../model";

/** The bag of cables: how many of each are at hand. Take one out and see what breaks. */
export function Bag() {
  const { rig, edit } = useDraft();
  const { catalogue, answer } = useAnswer();
  const used = cablesLaid(answer?.plan ?? { joins: [] });
  return (
    <Panel title="Cables" actions={<FillFromKit />} scroll className="flex-1 @3xl:min-h-96">
      {rig.bag.length === 0 && (
        <Empty title="No cable yet">Put in what is at hand below, or fill the bag from a kit. A promise that lacks one says which.</Empty>
      )}
      <AddCable />
      <ul>
        {rig.bag.map((item) => {
          const cable = catalogue?.cables.find((one) => one.id === item.cable);
          const name = cable?.name ?? item.cable;
          const inUse = used.get(item.cable) ?? 0;
          return (
            <li key={item.cable} className="flex items-center gap-2 border-b border-edge py-1">
              <span
                aria-hidden
                className="h-10 w-1.5 shrink-0 rounded"
                style={{ background: `var(--${familyToken(cable?.family ?? "mount")})` }}
              />
              <span className={`min-w-0 flex-1 leading-tight ${item.count === 0 ? "text-soft" : ""}`}>
                {name}
                <span className="flex flex-wrap items-center gap-x-3 text-sm text-soft">
                  <CablePlugs cable={item.cable} />
                  {item.count === 0 ? "none left" : inUse ? `${inUse} in use` : "spare"}
                </span>
              </span>
              <Button
                aria-label={`Take one out: ${name}`}
                disabled={item.count === 0}
                onClick={() => edit((now) => withCables(now, item.cable, item.count - 1))}
              >
                −
              </Button>
              <span className="w-6 text-center text-lg font-semibold tabular-nums">{item.count}</span>
              <Button
                aria-label={`Put one in: ${name}`}
                disabled={item.count >= 99}
                onClick={() => edit((now) => withCables(now, item.cable, item.count + 1))}
              >
                +
              </Button>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}

/** The bag filled with all cables of a kit. */
function FillFromKit() {
  const { edit } = useDraft();
  const { data: kits } = useQuery(kitsQuery);
  return (kits ?? []).map(({ document: kit }) => (
    <Button key={kit.id} onClick={() => edit((now) => withKit(now, kit))}>
      Fill from {kit.name}
    </Button>
  ));
}

const SHOWN = 5;

/** Any cable type there is, found by the words on its ends: the first few that fit can be put in with a tap. */
function AddCable() {
  const { rig, edit } = useDraft();
  const { catalogue } = useAnswer();
  const [words, setWords] = useState("");
  const have = new Map(rig.bag.map((item) => [item.cable, item.count]));
  const found = words.trim() ? findCables(catalogue?.cables ?? [], words) : [];
  return (
    <div className="mb-2">
      <SearchField
        label="Search the cables"
        placeholder="Put in another: USB-C data, BNC, motor bus"
        value={words}
        onChange={setWords}
        className="w-full"
      />
      {words.trim() && (
        <ul aria-label="Cables found" className="mt-1 rounded-md border border-edge bg-raised px-2">
          {found.slice(0, SHOWN).map((cable) => (
            <li key={cable.id} className="flex items-center gap-2 border-b border-edge py-1 last:border-0">
              <span className="min-w-0 flex-1 leading-tight">
                {cable.name}
                <span className="block text-sm text-soft">{cable.ends.join(" to ")}</span>
              </span>
              <Button
                aria-label={`Put in ${cable.name}`}
                onClick={() => edit((now) => withCables(now, cable.id, (have.get(cable.id) ?? 0) + 1))}
              >
                Put in
              </Button>
            </li>
          ))}
          {found.length === 0 && <li className="py-2">No cable is called so.</li>}
          {found.length > SHOWN && <li className="py-2 text-sm text-soft">{found.length - SHOWN} more: write another word of it.</li>}
        </ul>
      )}
    </div>
  );
}
