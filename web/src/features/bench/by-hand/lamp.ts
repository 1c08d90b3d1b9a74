/** How a lamp is coloured that is in a state; the words beside it say the same. */
export const LAMPS: Record<string, string> = {
  asleep: "bg-transparent border-edge",
  booting: "bg-warn border-warn animate-pulse",
  asking: "bg-warn border-warn",
  waiting: "bg-warn border-warn",
  charging: "bg-warn border-warn",
  recording: "bg-roll border-roll",
  linked: "bg-radio border-radio",
  networked: "bg-good border-good",
  awake: "bg-good border-good",
};

/** The same where a lamp is drawn on its device. */
export const FILLS: Record<string, string> = {
  asleep: "fill-ground stroke-soft",
  booting: "fill-warn stroke-ink",
  asking: "fill-warn stroke-ink",
  waiting: "fill-warn stroke-ink",
  charging: "fill-warn stroke-ink",
  recording: "fill-roll stroke-ink",
  linked: "fill-radio stroke-ink",
  networked: "fill-good stroke-ink",
  awake: "fill-good stroke-ink",
};
