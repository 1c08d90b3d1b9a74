import { useEffect, useState, useSyncExternalStore } from "react";

import { DraftSync, type Keeper } from "./draft-sync";
import type { Draft, Saved } from "./draft";

/** A document as it is being edited: saved a moment after each change, one write at a time, and never lost. */
export function useDocument<D>(first: Saved<D>, keeper: Keeper<D>): [Draft<D>, DraftSync<D>] {
  const [sync] = useState(() => new DraftSync(first, keeper));
  const draft = useSyncExternalStore(sync.listen, sync.now);
  useEffect(() => sync.begin(), [sync]);
  return [draft, sync];
}
