import { useDay, useMe } from "../../../rig";
import { Empty, OnItsWay, Panel, useShortcuts } from "../../../ui";
import { ownerOf } from "../crew";
import { STAGE_NAMES, type Card } from "../model";
import { useCrew, type OnTheSheet } from "../use-crew";
import { useSheet, type Sheet } from "../use-sheet";
import { CardView } from "./card";
import { Give } from "./crew";
import { BuildBar, Side } from "./side";
import { Waits } from "./waits";

/** One card large, the list beside it. Ticks stay. From the cases, or from the rig as it stands built. */
export function RunSheetScreen() {
  const at = useSheet();
  const crew = useCrew(at);
  const { sheet, card, go, toggle } = at;
  useShortcuts([
    { keys: "j", does: "Next step", run: () => go(at.at + 1) },
    { keys: "k", does: "Step before", run: () => go(at.at - 1) },
    { keys: "arrowdown", does: "Next step", run: () => go(at.at + 1) },
    { keys: "arrowup", does: "Step before", run: () => go(at.at - 1) },
    { keys: "space", does: "Tick", run: toggle },
  ]);
  if (!sheet) return <OnItsWay says="Planning" />;
  if (!card) return <NothingToDo at={at} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <CardAtHand key={card.steps[0]?.id} at={at} crew={crew} card={card} of={sheet.steps.length} />
      <Side at={at} crew={crew} of={sheet} card={card} />
    </div>
  );
}

function NothingToDo({ at }: { at: Sheet }) {
  const isBuilt = Boolean(at.answer?.since_built);
  return (
    <Panel className="h-full" title={isBuilt ? "Built" : undefined}>
      {at.since ? (
        <Empty title="Nothing to do: it stands as planned">
          Change what is promised or what is in the case, and only what that spoils comes up here.
        </Empty>
      ) : (
        <Empty title="Nothing to do">No promise of this rig can be kept as it stands, so there is no run sheet.</Empty>
      )}
      {isBuilt && (
        <div className="mx-auto max-w-xl">
          <BuildBar at={at} />
        </div>
      )}
    </Panel>
  );
}

/** The card that is looked at, with what can be said of it and to whom it can be given. */
function CardAtHand({ at, crew, card, of }: { at: Sheet; crew: OnTheSheet; card: Card; of: number }) {
  const { marks, ticks, tick, say, given, give, log } = useDay();
  const { mayTick } = useMe();
  const { cards, go } = at;
  const [first] = card.steps;
  const ids = card.steps.map(({ id }) => id);
  return (
    <CardView
      card={card}
      number={1 + cards.slice(0, at.at).reduce((sum, one) => sum + one.steps.length, 0)}
      of={of}
      ticks={ticks}
      marks={marks}
      mayTick={mayTick}
      whose={
        mayTick &&
        first && (
          <Give
            step={first}
            stage={STAGE_NAMES[card.stage]}
            owner={ownerOf(first, given)}
            people={crew.people}
            onGive={(subject, to) => give(subject === first.id ? ids : [subject], to)}
          />
        )
      }
      onSay={(what, reason, photos) => {
        say(
          ids.filter((id) => !(id in ticks)),
          what,
          { reason, photos },
        );
        if (what === "skipped") go(at.at + 1);
      }}
      onLine={(step) => tick([step], !(step in ticks))}
      onTick={at.toggle}
      onTried={(worked) => {
        if (first?.act.kind !== "try-recipe") return;
        log("tried", [first.act.recipe], undefined, { worked });
        say([first.id], "done", { reason: worked ? "it worked" : "it did not work" });
        go(at.at + 1);
      }}
      then={cards[at.at + 1]?.title}
      waits={<Waits steps={at.sheet?.steps ?? []} ticks={ticks} />}
      onBack={at.at > 0 ? () => go(at.at - 1) : undefined}
      onNext={at.at < cards.length - 1 ? () => go(at.at + 1) : undefined}
    />
  );
}
