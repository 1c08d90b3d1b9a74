import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { PictureWay } from "../../../api/client";
import { Button, Choose, counted, Empty, Panel } from "../../../ui";
import { useAnswer, useDraft, Waiting } from "../../../rig";
import { withWays } from "../model";
import { waysQuery } from "../queries";

/** Every way to show one picture, the simplest first, with what each costs and loses. */
export function PictureWays() {
  const { rig, edit } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const pictures = rig.promises.filter((promise) => promise.kind === "picture");
  const [chosen, setChosen] = useState(pictures[0]?.id ?? "");
  const promise = pictures.find((one) => one.id === chosen) ?? pictures[0];
  const query = useQuery({ ...waysQuery(rig, promise?.id ?? ""), enabled: promise !== undefined && !isPlanning });
  const { data } = query;
  if (!promise)
    return (
      <Panel title="All the ways to a picture">
        <Empty title="No picture is promised">Promise a picture on a screen, and every way to it stands here.</Empty>
      </Panel>
    );
  const worst = Math.max(1, ...(data ?? []).map((way) => way.delay_ms));
  return (
    <Panel
      title="All the ways to a picture"
      actions={
        <Choose
          label="Which picture"
          value={promise.id}
          choices={pictures.map((one) => ({ value: one.id, label: `${one.who}: ${answer?.drawing.promises[one.id] ?? one.id}` }))}
          onChange={setChosen}
        />
      }
    >
      <Waiting name="ways" query={query} says="Looking at every way" />
      {data?.length === 0 && <Empty title="No way">Nothing in this rig can bring a picture to that screen.</Empty>}
      <ol className="space-y-2">
        {data?.map((way, number) => (
          <li
            key={way.says + number}
            className={`rounded-md border-l-8 bg-raised px-3 py-2 ${way.possible ? "border-video" : "border-edge"}`}
          >
            <div className="flex flex-wrap items-center gap-3">
              <Chain way={way} />
              <Delay value={way.delay_ms} worst={worst} />
              {way.look && <span className="font-semibold">with the look</span>}
              {way.possible && (
                <Button
                  className="ml-auto"
                  aria-label={`Adopt the way ${way.says}`}
                  onClick={() => edit((old) => withWays(old, { [promise.id]: way.over }))}
                >
                  Adopt
                </Button>
              )}
            </div>
            {way.figures && (
              <p className="mt-1 text-sm tabular-nums text-soft">
                {counted(way.figures.cables, "cable")} in all, {way.figures.axes} axes crossed, {(way.figures.mass_g / 1000).toFixed(2)} kg
                on the gimbal, {way.figures.load_w.toFixed(1)} W. {way.cables.join("; ")}
              </p>
            )}
            {way.possible && (
              <p className={`text-sm font-semibold ${way.lost.length ? "text-warn" : "text-good"}`}>
                {way.lost.length ? `▲ Loses ${way.lost.join(", ")}.` : "✔ Everything that was promised is kept."}
              </p>
            )}
            {!way.possible && <p className="text-sm text-bad">✕ {way.because}</p>}
          </li>
        ))}
      </ol>
    </Panel>
  );
}

function Chain({ way }: { way: PictureWay }) {
  return (
    <ul className="flex flex-wrap items-center gap-1">
      {way.devices.map((name, number) => (
        <li key={name} className="flex items-center gap-1">
          {number > 0 && (
            <span aria-hidden className="text-video">
              →
            </span>
          )}
          <span className={`rounded border px-2 py-1 font-semibold ${way.possible ? "border-ink" : "border-edge text-soft"}`}>{name}</span>
        </li>
      ))}
    </ul>
  );
}

function Delay({ value, worst }: { value: number; worst: number }) {
  return (
    <span className="flex items-center gap-2 tabular-nums">
      <span aria-hidden className="h-3 w-28 rounded bg-ground">
        <span className="block h-3 rounded bg-video" style={{ width: `${(100 * value) / worst}%` }} />
      </span>
      <b>{value.toFixed(0)} ms</b> late
    </span>
  );
}
