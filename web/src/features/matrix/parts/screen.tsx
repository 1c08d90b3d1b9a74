import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { type Cell } from "../../../api/client";
import { Button, Choose, Empty, Panel } from "../../../ui";
import { deviceName, useAnswer, useDraft, Waiting } from "../../../rig";
import { bodiesOf, sameCell, VERDICTS, withAnything } from "../model";
import { matrixQuery } from "../queries";
import { CellPanel } from "./cell";
import { Grid } from "./grid";

/** What can be done to a body, from where: the picture to look at before anything is promised. */
export function MatrixScreen() {
  const { rig } = useDraft();
  const { catalogue, answer, isPlanning } = useAnswer();
  const bodies = bodiesOf(rig, catalogue);
  const [chosen, setChosen] = useState<string>();
  const [whole, setWhole] = useState(false);
  const [mode, setMode] = useState("");
  const [open, setOpen] = useState<Cell>();
  const body = chosen ?? bodies[0] ?? "";
  const query = useQuery({ ...matrixQuery(rig, body, mode || null), enabled: body !== "" && !isPlanning });
  const { data } = query;
  const shown = data && (whole ? { functions: data.functions, columns: data.columns } : withAnything(data));
  const opened =
    data &&
    (sameCell(data, open) ?? data.cells.find((cell) => cell.verdict === "condition") ?? data.cells.find((cell) => cell.verdict === "yes"));
  return (
    <Panel
      title={
        <span className="flex flex-wrap items-center gap-3">
          What can be done to
          {bodies.length > 1 ? (
            <Choose
              label="Body"
              value={body}
              choices={bodies.map((id) => ({ value: id, label: deviceName(rig, id, answer) }))}
              onChange={(id) => {
                setChosen(id);
                setMode("");
              }}
            />
          ) : (
            <span>{deviceName(rig, body, answer)}</span>
          )}
          {Object.keys(data?.modes ?? {}).length > 1 && (
            <Choose
              label="Mode"
              value={mode}
              choices={[
                { value: "", label: "in any mode" },
                ...Object.entries(data?.modes ?? {}).map(([value, name]) => ({ value, label: `in ${name} mode` })),
              ]}
              onChange={setMode}
            />
          )}
        </span>
      }
      actions={
        <Button aria-pressed={whole} onClick={() => setWhole(!whole)}>
          {whole ? "Only what is possible" : "Show every no as well"}
        </Button>
      }
      scroll
      className="h-full"
    >
      <Waiting name="matrix" query={query} says="Asking of every function and every surface" />
      {shown && shown.functions.length === 0 && (
        <Empty title="Nothing in this rig reaches this body">
          Bring something with a button and a way to it, or show every no to read why.
        </Empty>
      )}
      {data && shown && shown.functions.length > 0 && (
        <div className="flex flex-wrap items-start gap-4">
          <div className="relative max-w-full overflow-x-auto" tabIndex={0} role="group" aria-label="Functions and surfaces">
            <Grid matrix={data} functions={shown.functions} columns={shown.columns} open={opened} onOpen={setOpen} />
          </div>
          {opened && <CellPanel key={`${opened.function} ${opened.device} ${opened.surface}`} cell={opened} names={data.names} />}
        </div>
      )}
      <ul className="mt-3 flex flex-wrap gap-5 text-sm">
        {Object.entries(VERDICTS).map(([key, look]) => (
          <li key={key} className={`flex items-center gap-2 ${look.colour}`}>
            <b aria-hidden>{look.mark}</b> {look.word}
          </li>
        ))}
        <li className="text-soft">A framed cell is promised. Tap a cell for the reason and the way.</li>
      </ul>
    </Panel>
  );
}
