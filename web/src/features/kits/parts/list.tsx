import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type KitLine, type KitPreview, type SavedKit } from "../../../api/client";
import { Button, Choose, Dialog, FileButton } from "../../../ui";
import { catalogueQuery, Problems } from "../../../rig";
import { tally } from "../model";
import { previewList, takeListIn, type List } from "../queries";

const COLUMNS = [
  { value: "item", label: "the item" },
  { value: "count", label: "how many" },
  { value: "tags", label: "tags" },
  { value: "firmware", label: "firmware" },
  { value: "licences", label: "licences" },
  { value: "note", label: "a note" },
  { value: "ignore", label: "left out" },
];
const EMPTY: List = { text: "", file: "", columns: null, chosen: {}, left_out: [] };

/** Bring in a kit list: match its columns, see every line as it was understood, mend what is wrong, take it in. */
export function ListDialog({
  open,
  saved,
  onClose,
  onTaken,
}: {
  open: boolean;
  saved: SavedKit;
  onClose: () => void;
  onTaken: (saved: SavedKit) => void;
}) {
  const [list, setList] = useState<List>(EMPTY);
  const id = saved.document.id;
  const { data: preview, error } = useQuery({
    queryKey: ["preview", id, list],
    queryFn: () => previewList(id, list),
    enabled: open && list.text !== "",
    placeholderData: (old) => old,
    retry: false,
  });
  const take = useMutation({
    mutationFn: () => takeListIn(id, list, saved.revision),
    onSuccess: (taken) => {
      onTaken(taken);
      setList(EMPTY);
      onClose();
    },
  });
  const refused = [error, take.error].find((one) => one instanceof Refusal);
  const counts = preview && list.text ? tally(preview) : undefined;
  return (
    <Dialog open={open} onClose={onClose} side="right" title={`Bring a list into ${saved.document.name}`}>
      <p className="mb-3 text-soft">A CSV table with a heading for each column. What is in the kit now is replaced; undo brings it back.</p>
      <FileButton
        weight={list.text ? "plain" : "lead"}
        label="Kit list"
        accept=".csv,.tsv,.txt"
        onChosen={(chosen) => void chosen.text().then((text) => setList({ ...EMPTY, text, file: chosen.name }))}
      >
        {list.text ? "Choose another file" : "Choose a file"}
      </FileButton>
      {refused && <Problems refusal={refused} />}
      {preview && list.text !== "" && (
        <>
          <Columns preview={preview} onChange={(columns) => setList({ ...list, columns })} />
          {counts && (
            <p className="my-3 font-semibold" role="status">
              <span className="text-good">✔ {counts.right} right</span>, <span className="text-warn">◐ {counts.likely} by likeness</span>,{" "}
              <span className="text-bad">✕ {counts.wrong} wrong</span>
            </p>
          )}
          <ol className="space-y-1">
            {preview.lines.map((line) => (
              <Line
                key={line.line}
                line={line}
                onChoose={(item) => setList({ ...list, chosen: { ...list.chosen, [line.line]: item } })}
                onLeaveOut={() => setList({ ...list, left_out: [...list.left_out, line.line] })}
              />
            ))}
          </ol>
          <div className="sticky -bottom-4 -mx-4 mt-3 -mb-4 border-t border-edge bg-panel px-4 py-3">
            <Button weight="lead" disabled={!preview.ready || take.isPending} onClick={() => take.mutate()}>
              {preview.ready ? `Take in ${preview.lines.length} lines` : "Mend or leave out what is wrong first"}
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

function Columns({ preview, onChange }: { preview: KitPreview; onChange: (columns: KitPreview["columns"]) => void }) {
  return (
    <div className="mt-4">
      <h3 className="mb-1 font-semibold">What each column is</h3>
      <ul className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {preview.headings.map((heading, number) => (
          <li key={heading + number} className="flex items-center justify-between gap-3">
            <span>“{heading}”</span>
            <Choose
              label={`Column ${heading}`}
              value={preview.columns[number] ?? "ignore"}
              choices={COLUMNS}
              onChange={(value) => onChange(preview.columns.map((old, place) => (place === number ? (value as typeof old) : old)))}
              className="w-40"
            />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Line({ line, onChoose, onLeaveOut }: { line: KitLine; onChoose: (item: string) => void; onLeaveOut: () => void }) {
  const { data: catalogue } = useQuery(catalogueQuery);
  const problems = line.problems ?? [];
  const wrong = problems.length > 0;
  const names = new Map([...(catalogue?.profiles ?? []), ...(catalogue?.cables ?? [])].map((one) => [one.id, one.name]));
  const near = line.near ?? [];
  return (
    <li
      className={`rounded-md border-l-8 bg-raised px-3 py-1.5 leading-snug ${wrong ? "border-bad" : line.sure ? "border-good" : "border-warn"}`}
    >
      <p>
        <span className="text-soft tabular-nums">line {line.line}: </span>
        <b className="tabular-nums">{line.count}</b> × {line.name || line.text}
      </p>
      {!wrong && !line.sure && <p className="text-sm text-warn">◐ Your list says “{line.text}”. Taken for the nearest name.</p>}
      {problems.map((text) => (
        <p key={text} className="text-sm text-bad">
          ✕ {text[0]?.toUpperCase()}
          {text.slice(1)}
        </p>
      ))}
      {(wrong || !line.sure) && (
        <div className="mt-1 flex flex-wrap gap-2">
          {near
            .filter((item) => item !== line.item)
            .slice(0, 3)
            .map((item) => (
              <Button key={item} onClick={() => onChoose(item)}>
                {names.get(item) ?? item}
              </Button>
            ))}
          <Button weight="quiet" aria-label={`Leave out line ${line.line}`} onClick={onLeaveOut}>
            Leave out
          </Button>
        </div>
      )}
    </li>
  );
}
