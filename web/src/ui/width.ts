import { useLayoutEffect, useRef, useState, type RefObject } from "react";

/** Less than a scroll bar's width is no other room: what is drawn for it must not make the bar come and go for ever. */
const HARDLY = 20;

/** How wide an element is on the screen, in pixels: what is drawn in it is drawn for that room, and hardly shrunk. */
export function useWidth<E extends Element>(first: number): [RefObject<E | null>, number] {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const look = () => {
      const now = Math.round(element.getBoundingClientRect().width);
      if (now > 0) setWidth((before) => (Math.abs(now - before) < HARDLY ? before : now));
    };
    look();
    const watching = new ResizeObserver(look);
    watching.observe(element);
    return () => watching.disconnect();
  }, []);
  return [ref, width];
}
