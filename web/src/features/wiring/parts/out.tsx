import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";

import { saveFile } from "../../../ui";
import { asSvg } from "../drawn";

/** The map on paper, on one page, and as a file. */
export function Out({ name }: { name: string }) {
  const drawing = () => document.querySelector<SVGSVGElement>("svg[data-map]");
  const save = () => {
    const map = drawing();
    if (map) saveFile(asSvg(map), `${name}.svg`, "image/svg+xml");
  };
  const ways = [
    { says: "Save as SVG", run: save },
    { says: "Print on one page", run: () => printAlone(drawing(), name) },
  ];
  return (
    <Menu>
      <MenuButton
        aria-label="The map as a file, or on paper"
        className="inline-flex min-h-11 min-w-11 items-center justify-center rounded-md border border-edge bg-raised px-3 font-bold"
      >
        ⋯
      </MenuButton>
      <MenuItems anchor={{ to: "top start", gap: 6 }} className="z-40 rounded-md border border-edge bg-panel p-1 shadow-xl">
        {ways.map(({ says, run }) => (
          <MenuItem key={says}>
            <button
              type="button"
              onClick={run}
              className="flex min-h-11 w-full items-center rounded px-3 data-focus:bg-lead data-focus:text-on-lead"
            >
              {says}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

/** Print a drawing by itself on a page of its own, lying, in the inks of the day. */
function printAlone(drawing: SVGSVGElement | null, name: string): void {
  if (!drawing) return;
  const page = document.createElement("div");
  page.dataset.report = "map";
  page.className = "hidden print:block";
  const title = document.createElement("h1");
  title.textContent = name;
  page.append(title, drawing.cloneNode(true));
  document.body.append(page);
  window.addEventListener("afterprint", () => page.remove(), { once: true });
  window.print();
}
