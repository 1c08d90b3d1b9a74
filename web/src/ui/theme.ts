import { useEffect, useState, useSyncExternalStore } from "react";

export type Theme = "night" | "day";

const stored = (): Theme | undefined => {
  const found = localStorage.getItem("theme");
  return found === "day" || found === "night" ? found : undefined;
};
const light = () => window.matchMedia("(prefers-color-scheme: light)");

/** The theme: what this device is set to, until somebody chooses; from then on that, kept on this machine. */
export function useTheme(): [Theme, () => void] {
  const [chosen, setChosen] = useState(stored);
  const isLight = useSyncExternalStore(
    (changed) => {
      const of = light();
      of.addEventListener("change", changed);
      return () => of.removeEventListener("change", changed);
    },
    () => light().matches,
  );
  const theme: Theme = chosen ?? (isLight ? "day" : "night");
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  const turn = () => {
    const next: Theme = theme === "night" ? "day" : "night";
    localStorage.setItem("theme", next);
    setChosen(next);
  };
  return [theme, turn];
}
