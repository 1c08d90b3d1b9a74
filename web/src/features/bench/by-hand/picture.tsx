import { useEffect, useState } from "react";

import type { DeviceView } from "../../../api/client";
import { slate } from "./model";

type ScreenView = DeviceView["screens"][number];
const TICK_MS = 100;

/** The bench's clock as it runs on while nobody does anything: for the pictures only, the bench waits for hands. */
function useRunning(clockS: number): number {
  const [since, setSince] = useState(() => ({ clockS, at: Date.now() }));
  const [now, setNow] = useState(() => Date.now());
  if (since.clockS !== clockS) setSince({ clockS, at: now });
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), TICK_MS);
    return () => window.clearInterval(timer);
  }, []);
  return 1000 * clockS + Math.max(0, now - since.at);
}

/** What a screen shows: nothing, no picture, or a camera's: its clock as late as the picture is, the look, the bars. */
export function Picture({ screen, clockS }: { screen: ScreenView; clockS: number }) {
  const isLive = screen.shows === "picture";
  return (
    <figure className="flex min-w-0 items-center gap-2">
      <svg viewBox="0 0 128 72" className="h-18 w-32 shrink-0 rounded border border-edge" role="img" aria-label={wordsOf(screen)}>
        <rect width="128" height="72" className="fill-ground" />
        {isLive && <Shot withLook={Boolean(screen.look)} clockS={clockS} lateMs={screen.delay_ms ?? 0} />}
        {screen.shows === "no picture" && <path d="M52 26 l24 20 M76 26 l-24 20" className="stroke-soft" strokeWidth="3" />}
        {screen.rolling && <rect x="2" y="2" width="124" height="68" fill="none" className="stroke-roll" strokeWidth="4" />}
      </svg>
      <figcaption className="min-w-0 text-sm leading-tight">
        <b>{screen.name}</b>
        <span className="block">{isLive ? screen.of : screen.shows}</span>
        {isLive && (
          <span className="block text-soft">
            {screen.delay_ms} ms late, {screen.look ? "with the look" : "without the look"}
          </span>
        )}
        {screen.rolling && <span className="font-semibold text-roll">● rolling</span>}
      </figcaption>
    </figure>
  );
}

const wordsOf = (screen: ScreenView) =>
  screen.shows === "picture" ? `${screen.name}: picture of ${screen.of}` : `${screen.name}: ${screen.shows}`;

/** Colour bars below a horizon: pale and flat without the look, deep and warm with it. */
function Shot({ withLook, clockS, lateMs }: { withLook: boolean; clockS: number; lateMs: number }) {
  const of = (part: string) => `var(--${withLook ? "shot" : "flat"}-${part})`;
  return (
    <>
      <rect width="128" height="38" fill={of("sky")} />
      <path d="M0 38 h128 v14 h-128z" fill={of("sea")} />
      <path d="M30 38 l8 -12 h48 l8 12z M48 26 v-9 h22 v9z" fill={of("ship")} />
      <g opacity={withLook ? 1 : 0.6}>
        {BARS.map((bar) => (
          <rect key={bar} x={((bar - 1) * 128) / 7} y="52" width={128 / 7} height="20" fill={`var(--bar-${bar})`} />
        ))}
      </g>
      <rect x="58" y="3" width="67" height="16" rx="2" fill="var(--slate)" />
      <Clock clockS={clockS} lateMs={lateMs} />
    </>
  );
}

/** By itself, so that nothing else is drawn anew ten times a second. */
function Clock({ clockS, lateMs }: { clockS: number; lateMs: number }) {
  const nowMs = useRunning(clockS);
  return (
    <text x="91.5" y="15" fontSize="13" textAnchor="middle" fill="var(--on-slate)" className="tabular-nums">
      {slate(nowMs - lateMs)}
    </text>
  );
}

const BARS = [1, 2, 3, 4, 5, 6, 7];
