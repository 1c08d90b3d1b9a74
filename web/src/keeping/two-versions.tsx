import type { Refusal } from "../api/client";
import { Button, Dialog } from "../ui";
import { differences } from "./differences";
import { Differences } from "./differences-table";
import type { Keep, Other } from "./draft";

type Props = {
  open: boolean;
  what: string;
  mine: object;
  other: Other<object>;
  madeOn: number;
  refusal: Refusal | undefined;
  onLater: () => void;
  onSettle: (keep: Keep) => void;
};

/** Somebody else wrote first: both versions side by side, and which of them is to stand. The other stays in the history. */
export function TwoVersions({ open, what, mine, other, madeOn, refusal, onLater, onSettle }: Props) {
  const found = open ? differences(mine, other.theirs) : [];
  return (
    <Dialog open={open} onClose={onLater} title={`Two versions of ${what}`}>
      <p>
        You changed revision {madeOn}; somebody else has saved revision {other.head} meanwhile. Choose which is to stand. The other one is
        kept in the history and can be brought back.
      </p>
      <Differences found={found} mine="Mine" theirs="Theirs" />
      {found.length === 0 && <p className="mt-2 text-soft">They differ only in what the machine wrote down itself.</p>}
      {refusal && (
        <p role="alert" className="mt-3 border-l-8 border-bad bg-raised px-3 py-2">
          {refusal.answer.message} {refusal.answer.hint}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        <Button weight="lead" onClick={() => onSettle("mine")}>
          Mine stands
        </Button>
        <Button weight="lead" onClick={() => onSettle("theirs")}>
          Theirs stands
        </Button>
        <Button onClick={onLater}>Decide later</Button>
      </div>
    </Dialog>
  );
}
