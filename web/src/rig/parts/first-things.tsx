import { useNavigate } from "react-router";

import { Button, Empty, Panel, useWide } from "../../ui";
import { PROMISE_FIELD } from "../promises/entry";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";

/** What stands on a stage that has nothing to work on yet: what is missing, and the way there. */
export function FirstThings({ missing }: { missing: "devices" | "promises" }) {
  const { rig } = useDraft();
  const { show } = usePanel();
  const wide = useWide();
  const go = useNavigate();
  const promise = async () => {
    // On a phone the column is a stage of its own.
    if (!wide) await go(`/rigs/${rig.id}`);
    document.getElementById(PROMISE_FIELD)?.focus();
  };
  return (
    <Panel>
      {missing === "devices" ? (
        <Empty title="The case is empty">
          <p className="mb-3">This stage works on what lies there: take a body, a lens, a gimbal and whatever else there is.</p>
          <Button weight="lead" onClick={() => show({ kind: "shelf" })}>
            Take from the shelf
          </Button>
        </Empty>
      ) : (
        <Empty title="Nothing is promised yet">
          <p className="mb-3">
            A plan keeps promises: say who needs what, and it is planned at once. What could be promised at all stands under Functions.
          </p>
          <Button weight="lead" onClick={() => void promise()}>
            Promise something
          </Button>
        </Empty>
      )}
    </Panel>
  );
}
