import { createContext, useContext, type Provider } from "react";

/** Something that stands in a rig: what provides it, and the hook `name` that has it, which is of no use outside one. */
export function withinRig<T>(name: string): [Provider<T | undefined>, () => T] {
  const Context = createContext<T | undefined>(undefined);
  const useIt = () => {
    const found = useContext(Context);
    if (found === undefined) throw new Error(`${name} stands outside a rig`);
    return found;
  };
  return [Context.Provider, useIt];
}
