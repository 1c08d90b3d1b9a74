import { counted, Panel } from "../../../ui";
import type { Rota } from "../rota";

/** Which packs there are, how they fly, and what was taken to be so. */
export function RotaTold({ rota }: { rota: Rota }) {
  return (
    <>
      <Packs rota={rota} />
      {(rota.transport ?? []).length > 0 && <Flying rota={rota} />}
      <Panel title="To know">
        <ul className="list-disc space-y-1 pl-5">
          {[...(rota.cautions ?? []), ...(rota.assumed ?? [])].map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </Panel>
    </>
  );
}

/** What it would take, where the day does not go with what there is. */
export function Remedies({ rota }: { rota: Rota }) {
  if ((rota.remedies ?? []).length === 0) return null;
  return (
    <Panel title="What it would take">
      <ul className="space-y-2">
        {(rota.remedies ?? []).map((one) => (
          <li key={one.says} className="flex gap-2">
            <span aria-hidden className={one.gone ? "text-good" : "text-warn"}>
              {one.gone ? "✓" : "~"}
            </span>
            <span>{one.says}</span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

function Packs({ rota }: { rota: Rota }) {
  return (
    <Panel title={counted(rota.packs.length, "pack")}>
      {[...(rota.packs_says ?? []), rota.overnight_says].filter(Boolean).map((one) => (
        <p key={one} className="mb-2">
          {one}
        </p>
      ))}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(10.5rem,1fr))] gap-2">
        {rota.packs.map((pack) => (
          <li key={pack.key} className={`rounded-md border-2 px-2 py-1 ${pack.used ? "border-power" : "border-edge border-dashed"}`}>
            <span className="block font-semibold">{pack.key}</span>
            <span className="block text-sm text-soft tabular-nums">
              gives {pack.gives_wh} Wh of {pack.energy_wh}
            </span>
            <span className="block h-2 rounded-sm bg-raised" aria-hidden>
              <span className="block h-2 rounded-sm bg-power" style={{ width: `${pack.health_percent}%` }} />
            </span>
            <span className="block text-sm text-soft">
              health {pack.health_percent} %{pack.used ? "" : ", not needed"}
              {pack.health_says ? `, ${pack.health_says}` : ""}
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

const CARRY = { cabin: "text-good", ask: "text-warn", cargo: "text-bad", other: "text-soft" } as const;

function Flying({ rota }: { rota: Rota }) {
  const says = [...new Set((rota.transport ?? []).map((one) => one.says))];
  return (
    <Panel title="By air">
      {says.map((words) => (
        <div key={words} className="mb-3">
          <p className={`font-semibold ${CARRY[(rota.transport ?? []).find((one) => one.says === words)!.carry]}`}>{words}</p>
          <ul className="text-sm text-soft">
            {(rota.transport ?? [])
              .filter((one) => one.says === words)
              .map((one) => (
                <li key={`${one.name} ${one.each_wh}`} className="tabular-nums">
                  {one.count} × {one.each_wh} Wh, {one.name}
                </li>
              ))}
          </ul>
        </div>
      ))}
      <p className="text-sm text-soft">The carrier and the law of both ends decide: these are the limits that most keep.</p>
    </Panel>
  );
}
