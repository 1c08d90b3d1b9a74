import { useEffect, useState } from "react";

/** Whether a paper is being printed, and what begins it: it is drawn for the printer alone, and gone afterwards. */
export function usePrinting(): [boolean, () => void] {
  const [isPrinting, setPrinting] = useState(false);
  useEffect(() => {
    if (!isPrinting) return;
    const over = () => setPrinting(false);
    window.addEventListener("afterprint", over);
    // What is drawn is drawn with the next frame.
    const frame = requestAnimationFrame(() => window.print());
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("afterprint", over);
    };
  }, [isPrinting]);
  return [isPrinting, () => setPrinting(true)];
}
