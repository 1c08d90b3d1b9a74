import { useEffect, type RefObject } from "react";

/** Keep an element in sight inside its own scrolling list. Never moves the page, so that a phone stays where it is. */
export function useKeepInView(element: RefObject<HTMLElement | null>, when: unknown): void {
  useEffect(() => {
    const here = element.current;
    const list = here?.closest<HTMLElement>(".overflow-auto");
    if (!here || !list) return;
    const top = here.getBoundingClientRect().top - list.getBoundingClientRect().top + list.scrollTop;
    if (top < list.scrollTop) list.scrollTop = top - 60;
    const below = top + here.offsetHeight - list.clientHeight;
    if (below > list.scrollTop) list.scrollTop = below + 60;
  }, [element, when]);
}
