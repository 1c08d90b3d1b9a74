import type { Profile } from "../../../api/client";
import { Button, Panel, saveFile } from "../../../ui";
import type { Checks } from "../queries";

/** What is wrong with the device as it stands, at its place; and, when nothing is, keep it or save it as YAML. */
export function Checked({
  checked,
  draft,
  busy,
  onKeep,
}: {
  checked: Checks | undefined;
  draft: Profile;
  busy: boolean;
  onKeep: () => void;
}) {
  const problems = checked?.problems ?? [];
  const good = checked !== undefined && problems.length === 0;
  const save = () => saveFile(checked?.text ?? "", `${draft.id}.yaml`, "application/yaml");
  return (
    <Panel title="As it stands">
      <p role="status" className={`font-bold ${good ? "text-good" : "text-bad"}`}>
        {good
          ? "✔ Nothing is wrong with it."
          : checked
            ? `✕ ${problems.length} ${problems.length === 1 ? "thing is" : "things are"} wrong.`
            : "Checking."}
      </p>
      <ul className="mt-2 space-y-2">
        {problems.map((problem) => (
          <li key={problem.path + problem.message} className="rounded-md border-l-8 border-bad bg-raised px-3 py-2 leading-snug">
            <b className="block text-sm">{problem.path || "the document"}</b>
            {problem.message} {problem.hint}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button weight="lead" disabled={!good || busy} onClick={onKeep}>
          Keep it
        </Button>
        <Button disabled={!good} onClick={save}>
          Save as YAML
        </Button>
      </div>
    </Panel>
  );
}
