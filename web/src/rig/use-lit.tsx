import { useMemo, useState, type ReactNode } from "react";

import { useDraft } from "./use-draft";
import { withinRig } from "./within-rig";

export type Lit = {
  /** The promise whose way is lit on the map. */
  lit: string | undefined;
  light: (promise: string | undefined) => void;
};

const [Provide, inRig] = withinRig<Lit>("useLit");

/** Which promise's way is lit, and lighting another. */
export const useLit = inRig;

/** Keeps what is lit for as long as it is promised. */
export function LitProvider({ children }: { children: ReactNode }) {
  const { rig } = useDraft();
  const [chosen, light] = useState<string>();
  const lit = rig.promises.some((promise) => promise.id === chosen) ? chosen : undefined;
  const value = useMemo<Lit>(() => ({ lit, light }), [lit]);
  return <Provide value={value}>{children}</Provide>;
}
