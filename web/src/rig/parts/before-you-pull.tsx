import { useMutation } from "@tanstack/react-query";

import { Refusal, type Answer, type Schemas } from "../../api/client";
import { Button, counted } from "../../ui";
import { ASKED } from "../incidents";
import * as queries from "../queries";
import { useAnswer } from "../use-answer";
import { useDraft } from "../use-draft";
import { Problems } from "./problems";

type Asked = Omit<Schemas["RigAndWhat"], "document">;

/** Asked before a hand does it: what goes at once, what is forgotten, and the steps and minutes that bring it back. */
export function BeforeYouPull({ device, join }: { device?: string; join?: Answer["plan"]["joins"][number] }) {
  const { rig } = useDraft();
  const { answer } = useAnswer();
  const asking = useMutation({ mutationFn: (asked: Asked) => queries.askAftermath(rig, asked) });
  const used = answer?.drawing.devices.find((one) => one.id === device && one.used);
  const choices: [string, Asked][] = [];
  if (join)
    choices.push([
      join.link.kind === "radio" ? "If they lose each other" : join.link.kind === "direct" ? "If I take it apart" : `If I pull ${join.tag}`,
      { what: "pulled", link: join.link.id },
    ]);
  if (used && device) {
    choices.push(...(Object.keys(ASKED) as (keyof typeof ASKED)[]).map((what): [string, Asked] => [ASKED[what], { what, device }]));
  }
  if (choices.length === 0) return null;
  const { data, error, variables } = asking;
  return (
    <section className="mt-4" aria-label="Before you pull it">
      <h3 className="mb-1 font-semibold">Before you pull it</h3>
      <div className="flex flex-wrap gap-2">
        {choices.map(([words, asked]) => (
          <Button key={words} aria-pressed={variables?.what === asked.what} onClick={() => asking.mutate(asked)}>
            {words}
          </Button>
        ))}
      </div>
      {error instanceof Refusal && <Problems refusal={error} />}
      {data && answer && <Aftermath data={data} words={answer.drawing.promises} />}
    </section>
  );
}

const minutes = (seconds: number) => (seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`);

function Aftermath({ data, words }: { data: Schemas["Aftermath"]; words: Record<string, string> }) {
  const steps = data.sheet.steps.filter((step) => step.act.kind !== "prove");
  if (data.lost.length === 0 && steps.length === 0)
    return (
      <p role="status" className="mt-2 text-lg text-good">
        Nothing that was promised goes.
      </p>
    );
  return (
    <div role="status" className="mt-2 space-y-2">
      <Lines
        title={data.lost.length === 0 ? "Nothing that was promised goes at once" : "Goes at once"}
        lines={data.lost.map((id) => words[id] ?? id)}
        mark="▲"
      />
      {data.forgotten.length > 0 && <Lines title="No longer so, and does not come back by itself" lines={data.forgotten} mark="·" />}
      {steps.length > 0 && (
        <Lines
          title={`Brings it back: ${counted(steps.length, "step")}, then proofs; about ${minutes(data.sheet.takes_s)}`}
          lines={steps.map((step) => step.title)}
          numbered
        />
      )}
      {(data.sheet.warnings ?? []).map((line) => (
        <p key={line} className="text-warn">
          {line}
        </p>
      ))}
    </div>
  );
}

function Lines({ title, lines, mark, numbered }: { title: string; lines: readonly string[]; mark?: string; numbered?: boolean }) {
  return (
    <div className="rounded-md bg-raised px-3 py-2">
      <h4 className="font-semibold">{title}</h4>
      <ol>
        {lines.map((line, number) => (
          <li key={line} className="flex gap-2 leading-snug">
            <span className="w-5 shrink-0 text-right text-soft tabular-nums" aria-hidden>
              {numbered ? number + 1 : mark}
            </span>
            {line}
          </li>
        ))}
      </ol>
    </div>
  );
}
