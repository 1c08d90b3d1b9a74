import { Button, Dialog } from "../../ui";
import { useDraft } from "../use-draft";

/** Somebody else wrote first: mine on top of theirs, or theirs instead of mine. */
export function StaleDialog() {
  const { stale, settleStale } = useDraft();
  if (!stale) return null;
  const theirs = stale.theirs as { promises?: unknown[]; devices?: unknown[] };
  return (
    <Dialog open onClose={() => settleStale("theirs")} title="Somebody else changed this rig">
      <p>{stale.message}</p>
      <p className="mt-2">
        Theirs has {theirs.devices?.length ?? 0} devices and {theirs.promises?.length ?? 0} promises. Neither version is
        lost: the other stays in the history.
      </p>
      <div className="mt-4 flex gap-3">
        <Button weight="lead" onClick={() => settleStale("mine")}>
          Save mine on top
        </Button>
        <Button onClick={() => settleStale("theirs")}>Take theirs</Button>
      </div>
    </Dialog>
  );
}
