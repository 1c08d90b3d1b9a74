import { createContext, useContext, useMemo, useState, type ReactNode } from "react";

import { useDraft } from "./use-draft";

export type Lit = {
  /** The promise whose way is lit on the map. */
  lit: string | undefined;
  light: (promise: string | undefined) => void;
};

const Context = createContext<Lit | undefined>(undefined);

/** Which promise's way is lit, and lighting another. */
export function useLit(): Lit {
  const lit = useContext(Context);
  if (!lit) throw new Error("useLit stands outside a rig");
  return lit;
}

/** Keeps what is lit for as long as it is promised. */
export function LitProvider({ children }: { children: ReactNode }) {
  const { rig } = useDraft();
  const [chosen, light] = useState<string>();
  const lit = rig.promises.some((promise) => promise.id === chosen) ? chosen : undefined;
  const value = useMemo<Lit>(() => ({ lit, light }), [lit]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
