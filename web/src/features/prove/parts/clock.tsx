import { useEffect, useRef, useState } from "react";

import { Button } from "../../../ui";
import { shownTime } from "../model";

const SWEEP_MS = 1000;

/** A running clock, as large as the screen, to be filmed beside the monitor whose delay is asked for. */
export function ClockScreen() {
  const digits = useRef<HTMLParagraphElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const [hz, setHz] = useState<number>();
  useEffect(() => {
    const begun = performance.now();
    let asked = 0;
    let frames = 0;
    let told = begun;
    const draw = (now: number) => {
      const ms = now - begun;
      if (digits.current) digits.current.textContent = shownTime(ms);
      // A mark that crosses the screen once a second: read where digits run together.
      if (bar.current) bar.current.style.transform = `translateX(${((ms % SWEEP_MS) / SWEEP_MS) * 100}%)`;
      frames += 1;
      if (now - told >= 1000) {
        setHz(Math.round((frames * 1000) / (now - told)));
        frames = 0;
        told = now;
      }
      asked = requestAnimationFrame(draw);
    };
    asked = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(asked);
  }, []);
  return (
    <main className="flex h-dvh flex-col bg-black text-white">
      <p className="p-3 text-center text-lg">
        Film this clock and the monitor that shows it in one picture. The number changes {hz ?? "…"} times a second.
      </p>
      <p
        ref={digits}
        role="timer"
        aria-label="Running clock"
        className="flex flex-1 items-center justify-center text-[19vw] leading-none font-bold tabular-nums"
      >
        00:00.000
      </p>
      <div className="relative h-12 overflow-hidden border-y-2 border-white" aria-hidden>
        <div ref={bar} className="absolute inset-0 border-l-8 border-white" />
      </div>
      <div className="flex justify-center gap-3 p-3">
        <Button onClick={() => void document.documentElement.requestFullscreen?.()}>Fill the screen</Button>
        <Button onClick={() => (history.length > 1 ? history.back() : window.close())}>Back</Button>
      </div>
    </main>
  );
}
