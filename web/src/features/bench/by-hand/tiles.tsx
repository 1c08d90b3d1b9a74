import { memo } from "react";

import type { DeviceView } from "../../../api/client";
import { useAnswer } from "../../../rig";
import { ofKind, Pictogram } from "../../../ui";
import { LAMPS } from "./lamp";
import type { Hands } from "./use-hands";

/** Every device of the rig, small: how it is, its lamps, what it asks; tapped, it is at hand. */
export function Tiles({ hands }: { hands: Hands }) {
  const { answer } = useAnswer();
  const kinds = new Map(answer?.drawing.devices.map(({ id, kind }) => [id, kind]));
  return (
    <ul
      aria-label="Devices"
      className="grid shrink-0 auto-rows-min grid-cols-[repeat(auto-fill,minmax(8.5rem,1fr))] gap-1.5 @3xl:min-h-0 @3xl:overflow-auto"
      tabIndex={0}
    >
      {hands.bench?.devices.map((look) => (
        <Tile
          key={look.device}
          look={look}
          kind={kinds.get(look.device) ?? ""}
          isAtHand={look.device === hands.device}
          isFresh={hands.fresh.includes(look.device)}
          hasPlug={look.device === hands.held?.first?.device}
          onTap={hands.lookAt}
        />
      ))}
    </ul>
  );
}

const Tile = memo(function Tile({
  look,
  kind,
  isAtHand,
  isFresh,
  hasPlug,
  onTap,
}: {
  look: DeviceView;
  kind: string;
  isAtHand: boolean;
  isFresh: boolean;
  hasPlug: boolean;
  onTap: (device: string) => void;
}) {
  const border = look.rolling ? "border-roll" : isAtHand ? "border-lead" : isFresh ? "border-good" : "border-edge";
  return (
    <li>
      <button
        type="button"
        aria-pressed={isAtHand}
        onClick={() => onTap(look.device)}
        className={`flex min-h-14 w-full flex-col gap-0.5 rounded-md border-2 bg-raised px-2 py-1 text-left leading-tight ${border} ${look.in_case ? "border-dashed" : ""}`}
      >
        <span className="flex w-full items-center gap-1.5">
          <Pictogram name={ofKind(kind)} className="shrink-0 text-soft" />
          <b className="min-w-0 flex-1">{look.name}</b>
          {look.lamps.map((lamp) => (
            <span
              key={lamp.id}
              title={`${lamp.name}: ${lamp.looks}`}
              className={`size-4 shrink-0 rounded-full border-2 ${LAMPS[lamp.state] ?? LAMPS.asleep}`}
            />
          ))}
        </span>
        <span className="text-sm">
          {look.rolling ? <b className="text-roll">● rolling</b> : look.in_case ? "in its case" : look.state}
          {look.asks && <b className="text-warn"> · asks</b>}
          {hasPlug && <b className="text-lead"> · one plug in</b>}
        </span>
      </button>
    </li>
  );
});
