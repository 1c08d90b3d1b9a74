/** How far one step goes, and how far all of them. */
export const STEPS = { by: 1.5, most: 6 };

/** A zoom that is `times` what it was, between all of it in sight and the largest. */
export const zoomedBy = (zoom: number, times: number) => Math.min(STEPS.most, Math.max(1, zoom * times));

type Scrolled = { scrollLeft: number; scrollTop: number };

/** Where to scroll to so that what lies at a point of the box stays there when all becomes `times` as large. */
export const held = (box: Scrolled, at: { x: number; y: number }, times: number) => ({
  left: (box.scrollLeft + at.x) * times - at.x,
  top: (box.scrollTop + at.y) * times - at.y,
});
