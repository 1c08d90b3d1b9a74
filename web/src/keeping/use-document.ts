import { useEffect, useState, useSyncExternalStore } from "react";

import { Desk, type Keeper } from "./desk";
import type { Draft, Saved } from "./draft";

/** A document as it is being edited: saved a moment after each change, one write at a time, and never lost. */
export function useDocument<D>(first: Saved<D>, keeper: Keeper<D>): [Draft<D>, Desk<D>] {
  const [desk] = useState(() => new Desk(first, keeper));
  const draft = useSyncExternalStore(desk.listen, desk.now);
  useEffect(() => desk.begin(), [desk]);
  return [draft, desk];
}
