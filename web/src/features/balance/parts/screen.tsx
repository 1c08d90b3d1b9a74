import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Empty, Panel } from "../../../ui";
import { useAnswer, useDraft, Waiting } from "../../../rig";
import { type Gimbal, isCarried, withAllSet, withStood } from "../model";
import { balanceQuery } from "../queries";
import { ItemPanel } from "./item";
import { Axes, Lines } from "./left";
import { Marks } from "./marks";
import { Picture } from "./picture";
import { PolePanel } from "./pole";
import { Trying } from "./trying";

/** Where every scale of the gimbal has to stand, in which order, and what is left to its motors then. */
export function BalanceScreen() {
  const { rig } = useDraft();
  const { isPlanning } = useAnswer();
  const query = useQuery({ ...balanceQuery(rig), enabled: !isPlanning });
  const { data } = query;
  return (
    <div className="space-y-3">
      <Waiting name="balance" query={query} says="Reckoning moments" />
      {data && data.gimbals.length === 0 && <Nothing says={data.says} />}
      {(data?.gimbals ?? []).map((gimbal) =>
        gimbal.known ? <Told key={gimbal.gimbal} gimbal={gimbal} /> : <Nothing key={gimbal.gimbal} says={gimbal.says} />,
      )}
    </div>
  );
}

function Nothing({ says }: { says: string }) {
  return (
    <Panel>
      <Empty title={says}>Marks are reckoned for a gimbal that is in use and whose profile names its plate and its scales.</Empty>
    </Panel>
  );
}

function Told({ gimbal }: { gimbal: Gimbal }) {
  const { edit } = useDraft();
  const [chosen, setChosen] = useState<string>();
  const item = (gimbal.items ?? []).find((one) => one.key === chosen);
  const isNoted = (gimbal.marks ?? []).every((mark) => mark.by_mm != null);
  const isSet = (gimbal.marks ?? []).every((mark) => mark.by_mm != null && !mark.way);
  return (
    <div className="grid items-start gap-3 @3xl:grid-cols-[1fr_1.1fr]">
      <Panel
        title={`${gimbal.name}: ${gimbal.says}`}
        actions={
          <>
            {!isSet && <Button onClick={() => edit((now) => withAllSet(now, gimbal))}>It stands at these marks</Button>}
            {isNoted && <Button onClick={() => edit((now) => withStood(now, gimbal))}>It is balanced here: learn from it</Button>}
          </>
        }
      >
        <Marks gimbal={gimbal} />
      </Panel>
      <div className="space-y-3">
        <Lines title="What brings it into travel: one of these" mark="▶" of={(gimbal.cures ?? []).map((one) => one.says)} />
        <Panel title={`${(gimbal.payload_g / 1000).toFixed(2)} kg in its cage, its scales at these marks`}>
          <Picture gimbal={gimbal} chosen={chosen} onChoose={(key) => setChosen(key === chosen ? undefined : key)} />
          <Carried gimbal={gimbal} chosen={chosen} onChoose={setChosen} />
        </Panel>
        {gimbal.pole && <PolePanel pole={gimbal.pole} />}
        {item && <ItemPanel gimbal={gimbal} item={item} />}
        <Lines
          title="Leads across the axes"
          mark="●"
          of={(gimbal.leads ?? []).flatMap((lead) =>
            lead.says.map((says, number) => (number === 0 ? `${lead.tag}, ${lead.name}. ${says}` : says)),
          )}
        />
        <Trying gimbal={gimbal} />
        <Axes axes={gimbal.axes ?? []} />
        <Lines title="It feels like this now" mark="●" of={gimbal.feels ?? []} />
        <Lines title="Learned from builds that were in balance" mark="●" of={gimbal.learned ?? []} />
        <Lines title="Held otherwise" mark="●" of={(gimbal.attitudes ?? []).map((one) => `${one.name}: ${one.says}`)} />
        <Lines title="To know" mark="▲" of={gimbal.remarks ?? []} />
      </div>
    </div>
  );
}

/** Each thing that it carries, to be found in the picture by its name. */
function Carried({ gimbal, chosen, onChoose }: { gimbal: Gimbal; chosen: string | undefined; onChoose: (key: string) => void }) {
  const items = (gimbal.items ?? []).filter(isCarried);
  return (
    <div role="group" aria-label="What it carries" className="mt-2 flex flex-wrap gap-1">
      {items.map((one) => (
        <Button
          key={one.key}
          weight={one.key === chosen ? "lead" : "plain"}
          aria-pressed={one.key === chosen}
          onClick={() => onChoose(one.key)}
        >
          {one.how === "assumed" && "? "}
          {one.name} {Math.round(one.mass_g)} g
        </Button>
      ))}
    </div>
  );
}
