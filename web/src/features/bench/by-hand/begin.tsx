import { useState } from "react";

import { Button, TickBox } from "../../../ui";
import type { Hands } from "./use-hands";

/** How to begin: from the cases, or from the rig as it stands; and whether the sheet looks on. */
export function Begin({ hands, onBegun }: { hands: Hands; onBegun?: () => void }) {
  const [rehearses, setRehearses] = useState(false);
  const begin = (start: "cases" | "standing") => {
    hands.beginAnew({ start, rehearses });
    onBegun?.();
  };
  return (
    <div className="flex flex-col items-center gap-3 p-6 text-center">
      {!onBegun && <p className="text-lg font-semibold">Build it with your own hands</p>}
      <p className="max-w-md text-soft">
        Plug, switch, set and pair in any order, wrong things too. Every device does what a real one would; every move can be undone.
      </p>
      <label className="flex min-h-11 items-center gap-3">
        <TickBox checked={rehearses} onChange={setRehearses} />
        Rehearse: tell me what I do otherwise than the sheet, and what it costs
      </label>
      <div className="flex flex-wrap justify-center gap-2">
        <Button weight="lead" className="min-h-14 text-lg" disabled={hands.isBeginning} onClick={() => begin("cases")}>
          From the cases
        </Button>
        <Button className="min-h-14 text-lg" disabled={hands.isBeginning} onClick={() => begin("standing")}>
          From the rig as it stands
        </Button>
      </div>
    </div>
  );
}
