import type { Profile } from "../../../api/client";
import { Button, Choose, Dialog } from "../../../ui";
import { SIDES, type Side } from "../model";
import { marksOf, withMark } from "../places";

type Props = { draft: Profile; onChange: (draft: Profile) => void };

const sides = SIDES.map((side) => ({ value: side, label: `on the ${side}` }));
const NOWHERE = { value: "", label: "nobody said where" };

/** Lamps, buttons and screens that are on no side yet: each is put on one, and dragged from there. */
export function Unplaced({ draft, onChange }: Props) {
  const open = marksOf(draft).filter((one) => !one.side || !one.at);
  if (open.length === 0 || !draft.size_mm) return null;
  return (
    <section aria-label="On no side yet" className="mt-3">
      <h3 className="font-semibold">On no side yet</h3>
      <ul>
        {open.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2 border-b border-edge py-1 last:border-0">
            <span className="min-w-0 leading-tight">
              {one.name}
              {one.place && <span className="block text-sm text-soft">{one.place}</span>}
            </span>
            <Choose
              label={`Side of ${one.name}`}
              value=""
              choices={[NOWHERE, ...sides]}
              onChange={(side) => side && onChange(withMark(draft, one.id, { side: side as Side, at: [0.5, 0.5] }))}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One lamp, button or screen: on which side it is, or off the drawing again. */
export function MarkDialog({ draft, mark, onChange, onClose }: Props & { mark: string; onClose: () => void }) {
  const shown = marksOf(draft).find((one) => one.id === mark);
  if (!shown) return null;
  return (
    <Dialog open onClose={onClose} title={shown.name}>
      <p className="mb-3 text-soft">{shown.place ?? "Drag it to where it is."}</p>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <Choose
          label="Side"
          value={shown.side ?? ""}
          choices={shown.side ? sides : [NOWHERE, ...sides]}
          onChange={(side) => onChange(withMark(draft, mark, { side: side as Side }))}
        />
        <Button
          onClick={() => {
            onChange(withMark(draft, mark, null));
            onClose();
          }}
        >
          Take it off the drawing
        </Button>
      </div>
    </Dialog>
  );
}
