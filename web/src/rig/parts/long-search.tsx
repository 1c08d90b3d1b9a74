import { useEffect, useState } from "react";

import { Button } from "../../ui";
import { stopSearch } from "../queries";
import { useAnswer } from "../use-answer";

const LONG_MS = 1500;

/** What stands above a screen while a plan takes long: it can be stopped, and the best so far is shown. */
export function LongSearch() {
  const { isPlanning } = useAnswer();
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setLong(isPlanning), isPlanning ? LONG_MS : 0);
    return () => window.clearTimeout(timer);
  }, [isPlanning]);
  if (!isPlanning || !isLong) return null;
  return (
    <div role="status" className="mb-3 flex items-center gap-4 rounded-md border border-lead bg-panel p-3">
      <progress className="h-3 flex-1" />
      <span>Looking for the best plan. What stands below is the last one.</span>
      <Button onClick={() => void stopSearch()}>Stop, and show the best so far</Button>
    </div>
  );
}
