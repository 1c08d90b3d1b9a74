/**
 * Pictograms of our own: lines of one width on a square of 24, by kind of device, function and act.
 *
 * Each is one path; what follows a bar is filled. None stands without its word.
 */
export const PICTOGRAMS = {
  // Kinds of devices
  "camera-body": "M2 7h20v12H2z M6 7V4h6v3 M9 13a4 4 0 1 0 8 0a4 4 0 1 0-8 0",
  lens: "M3 6h5v12H3z M8 8h8v8H8z M16 5h5v14h-5z",
  gimbal: "M12 21v-5 M6 16h12 M6 16V6 M18 16v-5 M6 6h4 M10 3h6v6h-6z",
  transmitter: "M3 12h10v8H3z M8 12V8 M11 8a4 4 0 0 1 4-4 M13 10a4 4 0 0 1 4 0 M16 6a7 7 0 0 1 5 5",
  receiver: "M11 12h10v8H11z M16 12V8 M3 5c4 0 6 2 6 6 M3 9c2 0 3 1 3 3 | M2 12h2v2H2z",
  monitor: "M2 4h20v13H2z M9 21h6 M12 17v4",
  phone: "M7 2h10v20H7z M10 19h4",
  motor: "M3 8h9v11H3z M14 13a4.5 4.5 0 1 0 .1-.1 M18 6.500v2 M18 17.500v2 M12 13h2 M22 13h1",
  driver: "M3 7h18v10H3z M7 17v4 M12 17v4 M17 17v4 | M6 10h3v3H6z",
  "hand-unit": "M4 3h10v18H4z M14 7a5 5 0 0 1 0 10 M7 6h4v5H7z",
  "finger-wheel": "M4 12a6 6 0 1 0 12 0a6 6 0 1 0-12 0 M10 6v3 M10 15v3 M4 12h3 M16 12h6",
  battery: "M3 7h16v10H3z M19 10h2v4h-2 M7 10v4 M11 10v4 M15 10v4",
  "power-bank": "M5 3h14v18H5z M13 6l-4 6h5l-3 6",
  splitter: "M2 12h7 M9 12l6-7h7 M9 12h13 M9 12l6 7h7",
  "network-grip": "M4 3h8v18H4z M12 8h9v8h-9z M15 13v3 M18 13v3",
  "radio-remote":
    "M3 10h18v11H3z M12 10V3 M7 15.500a1.500 1.500 0 1 0 3 0a1.500 1.500 0 1 0-3 0 M14 15.500a1.500 1.500 0 1 0 3 0a1.500 1.500 0 1 0-3 0",
  converter: "M2 9h14l-4-4 M22 15H8l4 4",
  module: "M4 6h16v12H4z | M7 15h2v3H7z M11 15h2v3h-2z M15 15h2v3h-2z",
  plate: "M5 2h14v20H5z M9 7h6v8H9z | M10 18h1.500v2H10z M13 18h1.500v2H13z",
  "matte-box": "M2 4l7 5v6l-7 5z M9 6h10v12H9z",
  counterweight: "M6 8h12l3 13H3z M9 8a3 3 0 1 1 6 0",
  controller: "M3 6h18v12H3z M9 12a3 3 0 1 0 6 0a3 3 0 1 0-6 0 | M11 11h2v2h-2z",
  // Functions
  record: "M3 12a9 9 0 1 0 18 0a9 9 0 1 0-18 0 | M8 12a4 4 0 1 0 8 0a4 4 0 1 0-8 0",
  focus: "M3 8V3h5 M16 3h5v5 M21 16v5h-5 M8 21H3v-5 M9 12a3 3 0 1 0 6 0a3 3 0 1 0-6 0",
  iris: "M12 2l8.700 5v10l-8.700 5l-8.700-5V7z M12 2l4 10 M20.700 7l-9.700 5 M20.700 17L13 12 M12 22l-1-10 M3.300 17l9.700-5 M3.300 7L12 12",
  zoom: "M3 8v8 M21 4v16 M8 12h9 M8 12l3-3 M8 12l3 3 M17 12l-3-3 M17 12l-3 3",
  light: "M8 12a4 4 0 1 0 8 0a4 4 0 1 0-8 0 M12 2v3 M12 19v3 M2 12h3 M19 12h3 M5 5l2 2 M17 17l2 2 M5 19l2-2 M17 7l2-2",
  shutter: "M3 12a9 9 0 1 0 18 0a9 9 0 1 0-18 0 M12 12V3 M12 12l8 4",
  move: "M12 2v20 M2 12h20 M9 5l3-3l3 3 M9 19l3 3l3-3 M5 9l-3 3l3 3 M19 9l3 3l-3 3",
  picture: "M2 4h20v16H2z M2 16l6-5l5 4l4-3l5 4",
  data: "M5 5h14v14H5z M9 2v3 M15 2v3 M9 19v3 M15 19v3 M2 9h3 M2 15h3 M19 9h3 M19 15h3",
  hours: "M3 12a9 9 0 1 0 18 0a9 9 0 1 0-18 0 M12 6v6h5",
  other: "M4 6h16 M4 12h16 M4 18h10",
  // Acts
  plug: "M2 12h6 M8 7h6v10H8z M14 9h4 M14 15h4 M22 6v12",
  pull: "M2 12h4 M6 7h6v10H6z M20 6v12 M12 12h5 M15 9l-3 3l3 3",
  set: "M3 6h10 M17 6h4 M3 12h3 M10 12h11 M3 18h12 M19 18h2 M13 4v4 M6 10v4 M15 16v4",
  wake: "M2 19h20 M6 19a6 6 0 0 1 12 0 M12 3v6 M4.500 9.500l3 3 M19.500 9.500l-3 3",
  sleep: "M2 19h20 M6 19a6 6 0 0 1 12 0 M12 9V3 M9 6l3 3l3-3",
  pair: "M3 12a4 4 0 1 0 8 0a4 4 0 1 0-8 0 M13 12a4 4 0 1 0 8 0a4 4 0 1 0-8 0 M7 4c3-3 7-3 10 0",
  mesh: "M2 9a5 5 0 1 0 10 0a5 5 0 1 0-10 0 M12 16a5 5 0 1 0 10 0a5 5 0 1 0-10 0 M7 2v2 M7 14v2 M17 9v2 M17 21v2",
  look: "M1 12c5-8 17-8 22 0c-5 8-17 8-22 0z | M9 12a3 3 0 1 0 6 0a3 3 0 1 0-6 0",
  wait: "M5 2h14 M5 22h14 M6 2v4l6 6l6-6V2 M6 22v-4l6-6l6 6v4",
  fix: "M3 14h18v7H3z M8 3h8v8H8z M12 11v3",
  balance: "M12 3v18 M7 21h10 M4 7h16 M4 7l-3 7h6z M20 7l-3 7h6z",
  prove: "M2 12l7 8L22 4",
  gather: "M3 8h18l-2 13H5z M8 8a4 4 0 0 1 8 0",
  answer: "M3 4h18v12H11l-5 5v-5H3z M8 10h8",
} as const;

export type PictogramName = keyof typeof PICTOGRAMS;

const FUNCTIONS: Record<string, PictogramName> = {
  record: "record",
  focus: "focus",
  iris: "iris",
  zoom: "zoom",
  iso: "light",
  gain: "light",
  nd: "light",
  "white-balance": "light",
  "exposure-tools": "light",
  shutter: "shutter",
  "frame-rate": "shutter",
  stills: "shutter",
  "gimbal-move": "move",
  "gimbal-mode": "move",
  recentre: "move",
  tracking: "move",
  "face-select": "move",
  "monitor-out": "picture",
  "frame-guides": "picture",
  streaming: "picture",
  playback: "picture",
  "lens-data": "data",
  "file-transfer": "data",
  "record-place": "data",
};

/** By a function of ours; one of somebody's own words is drawn as any other. */
export const ofFunction = (id: string): PictogramName => FUNCTIONS[id] ?? "other";

/** By a kind of device of ours, or the kind that one's own is like. */
export const ofKind = (kind: string): PictogramName => (kind in PICTOGRAMS ? (kind as PictogramName) : "module");

const ACTS: Record<string, PictogramName> = {
  plug: "plug",
  "push-home": "plug",
  "put-back": "plug",
  replug: "plug",
  unplug: "pull",
  "take-out": "pull",
  part: "pull",
  set: "set",
  "set-mode": "set",
  "map-ends": "set",
  "load-table": "set",
  tune: "set",
  "type-in": "set",
  "turn-up": "set",
  wake: "wake",
  sleep: "sleep",
  answer: "answer",
  "meet-by-radio": "pair",
  look: "look",
  "show-out": "look",
  prove: "prove",
  "try-recipe": "prove",
  "follow-recipe": "other",
  balance: "balance",
  hang: "fix",
  fix: "fix",
  "come-in": "fix",
  "lay-out": "gather",
  "fit-battery": "battery",
  "insert-card": "data",
};

/** By what a step does: gears that mesh are joined by a step of plugging as well. */
export const ofAct = (kind: string, isGear = false): PictogramName => (isGear ? "mesh" : (ACTS[kind] ?? "other"));
