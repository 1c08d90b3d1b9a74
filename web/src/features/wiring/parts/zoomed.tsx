import { useEffect, useRef, useState, type ReactNode } from "react";

import { Button } from "../../../ui";
import { held, STEPS, zoomedBy } from "../zoom";

/** What is in it opens fitted, and is pinched, scrolled and stepped larger: then it scrolls, as anything does. */
export function Zoomed({ label, children, beside }: { label: string; children: ReactNode; beside?: ReactNode }) {
  const ref = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const box = ref.current;
    if (!box) return;
    let apart: number | undefined;
    let last = 1;
    const to = (next: number, at: { x: number; y: number }) => {
      const from = Number(box.dataset.zoom);
      const { left, top } = held(box, at, next / from);
      setZoom(next);
      // Once it is as large as that, what was under the fingers is under them again.
      requestAnimationFrame(() => box.scrollTo({ left, top }));
    };
    const pinch = (event: TouchEvent) => {
      const [one, other] = event.touches;
      if (!one || !other) return;
      event.preventDefault();
      const now = Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
      if (apart === undefined) {
        apart = now;
        last = Number(box.dataset.zoom);
        return;
      }
      const rect = box.getBoundingClientRect();
      to(zoomedBy(last, now / apart), {
        x: (one.clientX + other.clientX) / 2 - rect.left,
        y: (one.clientY + other.clientY) / 2 - rect.top,
      });
    };
    const over = () => {
      apart = undefined;
    };
    const wheel = (event: WheelEvent) => {
      // Two fingers on a pad come as a wheel with Ctrl held.
      if (!event.ctrlKey) return;
      event.preventDefault();
      const rect = box.getBoundingClientRect();
      to(zoomedBy(Number(box.dataset.zoom), Math.exp(-event.deltaY / 200)), { x: event.clientX - rect.left, y: event.clientY - rect.top });
    };
    box.addEventListener("touchmove", pinch, { passive: false });
    box.addEventListener("touchend", over);
    box.addEventListener("wheel", wheel, { passive: false });
    return () => {
      box.removeEventListener("touchmove", pinch);
      box.removeEventListener("touchend", over);
      box.removeEventListener("wheel", wheel);
    };
  }, []);
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div
        ref={ref}
        data-zoom={zoom}
        className="@container min-h-0 flex-1 touch-pan-x touch-pan-y overflow-auto"
        tabIndex={0}
        role="region"
        aria-label={label}
      >
        <div style={{ width: `${100 * zoom}%`, height: `${100 * zoom}%` }}>{children}</div>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Button aria-label="Larger" disabled={zoom >= STEPS.most} onClick={() => setZoom(zoomedBy(zoom, STEPS.by))}>
          +
        </Button>
        <Button aria-label="Smaller" disabled={zoom <= 1} onClick={() => setZoom(zoomedBy(zoom, 1 / STEPS.by))}>
          −
        </Button>
        <Button disabled={zoom === 1} onClick={() => setZoom(1)}>
          Fit
        </Button>
        {beside}
      </div>
    </div>
  );
}
