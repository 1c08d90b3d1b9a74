import { useRef, type PointerEvent } from "react";

/** So far a finger goes across before it is a swipe, and not a tap or a scroll. */
const FAR = 60;

/** A finger that goes across a card: to the left is onward, to the right is back. */
export function useSwipe(onBack: (() => void) | undefined, onNext: (() => void) | undefined) {
  const from = useRef<{ x: number; y: number }>(undefined);
  return {
    onPointerDown: (event: PointerEvent) => {
      from.current = event.pointerType === "touch" ? { x: event.clientX, y: event.clientY } : undefined;
    },
    onPointerCancel: () => {
      from.current = undefined;
    },
    onPointerUp: (event: PointerEvent) => {
      const start = from.current;
      from.current = undefined;
      if (!start) return;
      const [across, down] = [event.clientX - start.x, event.clientY - start.y];
      if (Math.abs(across) < FAR || Math.abs(across) < 2 * Math.abs(down)) return;
      (across < 0 ? onNext : onBack)?.();
    },
  };
}
