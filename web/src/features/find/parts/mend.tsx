import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import type { Schemas } from "../../../api/client";
import { useDraft } from "../../../rig";
import { Button, OnItsWay, Panel, Pictogram } from "../../../ui";
import { CURED, lasts, percent, saysOf, STILL, type Answered, type Cause, type Finding, type Standing } from "../model";
import { cureQuery } from "../queries";

/** So many steps of a cure are shown: what is longer is no cure but the rest of the work. */
const SHOWN = 8;
/** What the same work mends is said where it is so likely. */
const LIKELY = 0.1;
const LIKELIER_THAN_NOT = 0.5;

/** What it most likely is, how it is mended, and whether that was it. */
export function Mend({
  finding,
  cause,
  standing,
  disabled,
  onSay,
  onFound,
}: {
  finding: Finding;
  cause: Cause;
  standing: Standing;
  disabled: boolean;
  onSay: (look: string, answer: Answered["answer"], saw?: string) => void;
  onFound: (cause: Cause) => void;
}) {
  const { rig } = useDraft();
  const { ids } = cause;
  const { data: sheet } = useQuery({ ...cureQuery(rig, standing, ids), enabled: ids.length > 0 });
  const isMended = finding.status === "mended";
  // Of what the same work mends nobody knows which it was: the likeliest is kept, and the rest said.
  const others = isMended ? finding.causes.filter((one) => one !== cause && one.share >= LIKELY) : [];
  const title = isMended ? "Found" : `${cause.share >= LIKELIER_THAN_NOT ? "Most likely" : "Try this"} (${percent(helps(finding, cause))})`;
  return (
    <Panel className="shrink-0" title={title}>
      <p className="text-xl leading-snug font-semibold first-letter:uppercase">{saysOf(cause)}.</p>
      {others.length > 0 && <p className="mt-1">Or, mended by the same work: {others.map(saysOf).join("; ")}.</p>}
      {isMended ? (
        <p className="mt-1 text-soft">It works now. Keep it in the log, so that the next search knows.</p>
      ) : sheet ? (
        <HowTo sheet={sheet} />
      ) : (
        <OnItsWay says="Working out how it is mended" />
      )}
      <div className="mt-4 grid gap-2 @md:grid-cols-2">
        {isMended ? (
          <Button weight="lead" disabled={disabled} className="min-h-14" onClick={() => onFound(cause)}>
            <Pictogram name="prove" /> Keep in the log
          </Button>
        ) : (
          <>
            <Button
              weight="lead"
              disabled={disabled}
              className="min-h-14"
              onClick={() => ids.forEach((id) => onSay(`cure:${id}`, "seen", CURED))}
            >
              <Pictogram name="prove" /> It works now
            </Button>
            <Button disabled={disabled} className="min-h-14" onClick={() => ids.forEach((id) => onSay(`cure:${id}`, "seen", STILL))}>
              It still fails
            </Button>
          </>
        )}
      </div>
    </Panel>
  );
}

/** How likely it works once a cause is mended: its steps may mend something else by the way. */
function helps({ next }: Finding, { ids, share }: Cause): number {
  const cure = next.find((one) => one.is_cure && one.id === `cure:${ids.join()}`);
  return cure?.outcomes.find(({ words }) => words === CURED)?.share ?? share;
}

/** The short sheet of a cure. */
function HowTo({ sheet }: { sheet: Schemas["RunSheet"] }) {
  const { rig } = useDraft();
  return (
    <>
      <p className="mt-2 text-soft">Mend it so, some {lasts(sheet.takes_s)}:</p>
      <ol aria-label="Mend it so" className="mt-1 space-y-2">
        {sheet.steps.slice(0, SHOWN).map((step, number) => (
          <li key={step.id} className="flex gap-3">
            <span className="w-6 shrink-0 text-right text-soft tabular-nums">{number + 1}</span>
            <div className="leading-tight">
              <b>{step.title}</b>
              {step.detail.map((line) => (
                <p key={line}>{line}</p>
              ))}
              {step.cautions.map((line) => (
                <p key={line} className="mt-1 rounded border-l-8 border-warn bg-raised p-1 font-semibold">
                  {line}
                </p>
              ))}
              <p className="text-soft">{step.expect}</p>
            </div>
          </li>
        ))}
      </ol>
      {sheet.steps.length > SHOWN && (
        <p className="mt-2">
          And {sheet.steps.length - SHOWN} steps more: go on in the <Link to={`/rigs/${rig.id}/run-sheet`}>run sheet</Link>.
        </p>
      )}
      {(sheet.warnings ?? []).map((line) => (
        <p key={line} className="mt-2 rounded border-l-8 border-warn bg-raised p-2">
          {line}
        </p>
      ))}
      {sheet.steps.length === 0 && <p>Nothing that a hand can do here mends it.</p>}
    </>
  );
}

/** To end a search without a find: all that was seen goes into the log book. */
export function Ended({ disabled, onGiveUp }: { disabled: boolean; onGiveUp: () => void }) {
  return (
    <Button disabled={disabled} className="min-h-14 w-full" onClick={onGiveUp}>
      End the search: not found
    </Button>
  );
}
