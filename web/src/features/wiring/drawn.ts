/** What a drawing keeps of how it looks when it leaves the page. */
const KEPT = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "font-family",
  "font-size",
  "font-weight",
  "opacity",
  "text-anchor",
];

/** The map as a file of its own: with the colours of the page in it, since there are no style sheets beside it. */
export function asSvg(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const [from, to] = [drawing, copy].map((one) => [one, ...one.querySelectorAll<SVGElement>("*")]) as [SVGElement[], SVGElement[]];
  from.forEach((element, number) => {
    const look = getComputedStyle(element);
    const own = to[number]!;
    for (const name of KEPT) own.style.setProperty(name, look.getPropertyValue(name));
    for (const name of ["class", "tabindex", "role"]) own.removeAttribute(name);
  });
  const { width, height } = drawing.viewBox.baseVal;
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  copy.style.setProperty("background", getComputedStyle(document.body).backgroundColor);
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}\n`;
}
