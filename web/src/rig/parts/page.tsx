import type { ReactNode } from "react";
import { Link } from "react-router";

import { Button, useTheme } from "../../ui";

const PLACES = [
  { to: "/", name: "Rigs of the day" },
  { to: "/job", name: "Job" },
  { to: "/kit", name: "Kit" },
  { to: "/workshop", name: "Workshop" },
  { to: "/recipes", name: "Recipes" },
  { to: "/log", name: "Log book" },
  { to: "/share", name: "Share" },
];

/** A page that stands outside any one rig: the day, the kit, the workshop. */
export function Page({ here, actions, children }: { here: string; actions?: ReactNode; children: ReactNode }) {
  const [theme, turn] = useTheme();
  return (
    <div className="flex min-h-screen flex-col">
      <header className="flex flex-wrap print:hidden items-center gap-2 border-b border-edge bg-panel px-3 py-2">
        <Link to="/" className="flex min-h-11 items-center pr-3 text-xl font-bold tracking-tight max-sm:mr-auto">
          Isotact
        </Link>
        <nav aria-label="Places" className="mr-auto flex gap-1 max-sm:order-last max-sm:grid max-sm:w-full max-sm:grid-cols-3">
          {PLACES.map((place) => (
            <Link
              key={place.to}
              to={place.to}
              aria-current={place.to === here ? "page" : undefined}
              className={`flex min-h-11 items-center rounded-md px-3 font-semibold whitespace-nowrap max-sm:justify-center max-sm:px-1 ${place.to === here ? "bg-raised shadow-[inset_0_-4px_0_var(--lead)]" : "hover:bg-raised"}`}
            >
              {place.name}
            </Link>
          ))}
        </nav>
        {actions}
        <Button weight="quiet" onClick={turn}>
          {theme === "night" ? "Day" : "Night"}
        </Button>
      </header>
      <main className="mx-auto w-full max-w-[80rem] flex-1 p-3">{children}</main>
    </div>
  );
}
