import { Dialog, Key, type Shortcut } from "../../ui";

const ELSEWHERE: [string, string][] = [
  ["j / k", "Run sheet: next step, step before"],
  ["space", "Run sheet: tick. Bench: do one step"],
  ["a", "Bench: do all; again: to the end"],
  ["r", "Bench: start over"],
  ["n", "Promises: promise something more"],
];

/** Every key that does something, here and on the screens. */
export function KeySheet({ open, onClose, shortcuts }: { open: boolean; onClose: () => void; shortcuts: Shortcut[] }) {
  const lines: [string, string][] = [...shortcuts.map((one): [string, string] => [one.keys, one.does]), ...ELSEWHERE];
  return (
    <Dialog open={open} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] items-center gap-x-6 gap-y-3">
        {lines.map(([keys, does]) => (
          <div key={keys} className="contents">
            <dt>
              <Key>{keys}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
