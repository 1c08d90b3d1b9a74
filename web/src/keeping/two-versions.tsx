import type { Refusal } from "../api/client";
import { Button, Dialog } from "../ui";
import { differences } from "./differences";
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
      <table className="mt-3 w-full table-fixed border-collapse text-left">
        <thead>
          <tr className="border-b-2 border-edge">
            <th className="w-28 py-1 pr-2">Differs in</th>
            <th className="px-2">Mine</th>
            <th className="px-2">Theirs</th>
          </tr>
        </thead>
        <tbody>
          {found.map((one) => (
            <tr key={one.what} className="border-b border-edge align-top">
              <th className="py-1.5 pr-2 font-semibold">{one.what}</th>
              <td className="px-2 py-1.5">
                <Items only={one.mine} changed={one.changed} />
              </td>
              <td className="px-2 py-1.5">
                <Items only={one.theirs} changed={one.changed} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
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

function Items({ only, changed }: { only: string[]; changed: string[] }) {
  return (
    <ul className="[overflow-wrap:anywhere]">
      {only.map((item, number) => (
        <li key={`${item} ${number}`} className="font-semibold">
          {item}
        </li>
      ))}
      {changed.map((item, number) => (
        <li key={`${item} ${number}`} className="text-soft">
          {item}, changed
        </li>
      ))}
    </ul>
  );
}
