import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import { Refusal } from "../../../api/client";
import { deviceName, Problems, useAnswer, useDay, useDraft, useMe, type Answered as GivenAnswer } from "../../../rig";
import { OnItsWay, Panel } from "../../../ui";
import { percent, standingOf, type Cause, type Finding, type Sight, type Standing } from "../model";
import { findQuery, sightsQuery } from "../queries";
import { Causes } from "./causes";
import { Ended, Mend } from "./mend";
import { Look } from "./look";
import { SoFar } from "./so-far";
import { Tell } from "./tell";

const NONE: readonly GivenAnswer[] = [];

/** What is wrong: what could be, how likely, and what to look at next, from what is so now. */
export function FindScreen() {
  const { rig } = useDraft();
  const { answer, isPlanning } = useAnswer();
  const { marks, happened, search, log } = useDay();
  const { mayTick } = useMe();
  const steps = answer?.sheet.steps;
  const standing = useMemo(() => standingOf(steps ?? [], marks, happened), [steps, marks, happened]);
  const seen = search ?? NONE;
  // A step that does not look as it should is where a search begins, before anything else is told.
  const isBegun = seen.length > 0 || Boolean(standing.differs);
  const isReady = Boolean(answer) && !isPlanning;
  const { data, error, isPlaceholderData } = useQuery({ ...findQuery(rig, standing, seen), enabled: isReady && isBegun });
  const sights = useQuery({ ...sightsQuery(rig, standing), enabled: isReady }).data;
  if (!answer) return <OnItsWay says="Planning" />;
  const refusal = error instanceof Refusal ? error : undefined;
  const finding = isBegun ? data?.finding : undefined;
  const cause = finding && toMend(finding);
  const isAsking = isBegun && isPlaceholderData;
  const say = (look: string, given: GivenAnswer["answer"], saw?: string) => log("looked", [look], saw, { answer: given });
  const name = (device: string) => deviceName(rig, device);
  const found = (cause: Cause) => keepFound(cause, standing, log);
  const tell = <Tell sights={sights ?? []} seen={seen} disabled={!mayTick} isFirst={!isBegun} name={name} onSay={say} />;
  if (!isBegun)
    return (
      <div className="flex h-full flex-col gap-3">
        <Problems refusal={refusal} />
        {sights ? tell : <OnItsWay says="Working out what each thing that may be wrong would look like" />}
      </div>
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="flex min-h-0 flex-col gap-3 @3xl:overflow-auto">
        <Problems refusal={refusal} />
        {!finding && !error && <OnItsWay says="Working out what fits" />}
        {finding && cause && (
          <Mend
            key={cause.ids.join()}
            finding={finding}
            cause={cause}
            standing={standing}
            disabled={!mayTick || isAsking}
            onSay={say}
            onFound={found}
          />
        )}
        {finding?.status === "not-in-the-list" && <NotInTheList share={finding.elsewhere} />}
        {finding && finding.status !== "mended" && (
          <Look
            key={finding.next[0]?.id ?? "none"}
            finding={finding}
            mending={cause?.ids ?? []}
            crew={data?.crew ?? []}
            disabled={!mayTick || isAsking}
            name={name}
            onSay={say}
          />
        )}
        {tell}
      </div>
      <div className="flex min-h-0 flex-col gap-3 @3xl:overflow-auto">
        <Panel className="shrink-0" title="What it could be">
          <Causes finding={finding} finds={data?.finds ?? {}} />
        </Panel>
        <SoFar
          step={steps?.find(({ id }) => id === standing.differs)?.title}
          seen={seen}
          sights={sights ?? []}
          disabled={!mayTick}
          onTakeBack={(look) => log("unlooked", [look])}
        />
        <Ended disabled={!mayTick} onGiveUp={() => log("given-up", ["search"], told(seen, sights ?? []))} />
      </div>
    </div>
  );
}

/** That what is wrong is likely nothing that is known here: the search may go on, or end. */
function NotInTheList({ share }: { share: number }) {
  return (
    <Panel className="shrink-0" title="Perhaps not in my list">
      <p>
        It may well be something that is not known here ({percent(share)}). If all that was seen is sure, end the search: the log keeps it
        for the maker and the next shift. Otherwise look on.
      </p>
    </Panel>
  );
}

/** What is to be mended now: what it is, or what to try before every look. */
function toMend({ status, causes, next }: Finding): Cause | undefined {
  if (status === "found" || status === "mended") return causes[0];
  return next[0]?.is_cure ? causes.find(({ ids }) => ids.length === 1 && next[0]?.id === `cure:${ids[0]}`) : undefined;
}

/** What it was goes into the log; the step at which it began looks as it should now, and no search begins there again. */
function keepFound(cause: Cause, { differs }: Standing, log: ReturnType<typeof useDay>["log"]) {
  cause.ids.forEach((id, number) => log("found", [id], cause.says[number], { fault_kind: cause.kinds[number] }));
  if (differs) log("done", [differs]);
}

/** All answers of a search in one text, for whoever goes on with it. */
function told(seen: readonly GivenAnswer[], sights: readonly Sight[]): string {
  const says = new Map(sights.map((one) => [one.id, one.says.replace(/\.$/, "")]));
  return `Not found. ${seen.map((one) => `${says.get(one.look) ?? one.look}: ${one.saw || one.answer}`).join("; ")}`.slice(0, 1900);
}
