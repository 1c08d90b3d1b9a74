import { useCallback, useEffect, useRef, useState } from "react";

import { forget, keep, left } from "./unsaved";
import { useAskBeforeClosing } from "./use-ask";

/**
 * Something that is made here and is no document of the server yet: kept by the browser from its first change on,
 * through a reload, a closed tab and a browser that falls over, until it is put down or `isSafe` elsewhere as it is.
 */
export function useSketch<S extends { isSafe?: boolean }>(path: string): [S | undefined, (next: S | undefined) => void] {
  const [sketch, setSketch] = useState<S>();
  const [hasRoom, setRoom] = useState(true);
  const touched = useRef(false);
  useEffect(() => {
    let here = true;
    void left<S>(path).then((found) => {
      if (here && found && !touched.current) setSketch(found.document);
    });
    return () => {
      here = false;
    };
  }, [path]);
  const change = useCallback(
    (next: S | undefined) => {
      touched.current = true;
      setSketch(next);
      if (next === undefined || next.isSafe) forget(path);
      else setRoom(keep(path, next, 0));
    },
    [path],
  );
  useAskBeforeClosing(!hasRoom && sketch !== undefined && !sketch.isSafe);
  return [sketch, change];
}
