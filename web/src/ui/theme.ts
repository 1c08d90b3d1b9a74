import { useEffect, useState } from "react";

export type Theme = "night" | "day";

/** The theme, kept on this machine. Night unless told otherwise. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(() => (localStorage.getItem("theme") === "day" ? "day" : "night"));
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("theme", theme);
  }, [theme]);
  return [theme, () => setTheme(theme === "night" ? "day" : "night")];
}
