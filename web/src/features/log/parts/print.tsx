import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { createPortal } from "react-dom";

import { Refusal, type LogLine, type Rig } from "../../../api/client";
import { Problems } from "../../../rig";
import { Button } from "../../../ui";
import { byDay } from "../model";
import { wholeDay } from "../queries";
import { Lines } from "./lines";

/** Prints the report of a day: all of it, from the morning on, however much of it is on the screen. */
export function Print({ day, rig, rigs }: { day: string; rig?: string; rigs: readonly Rig[] }) {
  const [lines, setLines] = useState<readonly LogLine[]>();
  const { mutate, isPending, error } = useMutation({ mutationFn: () => wholeDay({ day, rig }), onSuccess: setLines });
  useEffect(() => {
    if (!lines) return;
    const over = () => setLines(undefined);
    window.addEventListener("afterprint", over);
    const photos = [...document.querySelectorAll<HTMLImageElement>("[data-report] img")];
    // One that cannot be had leaves a gap; the rest is printed.
    void Promise.allSettled(photos.map((photo) => photo.decode())).then(() => window.print());
    return () => window.removeEventListener("afterprint", over);
  }, [lines]);
  const of = rigs.find(({ id }) => id === rig)?.name ?? "every rig";
  return (
    <>
      <Button onClick={() => mutate()} disabled={isPending}>
        {isPending ? "Gathering the day" : "Print"}
      </Button>
      {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
      {lines &&
        createPortal(
          <article data-report className="hidden print:block">
            <h1 className="mb-3 text-xl font-bold">
              Day report, {new Date(`${day}T12:00`).toLocaleDateString([], { day: "numeric", month: "long", year: "numeric" })}, {of}
            </h1>
            {byDay(lines).map((run) => (
              <Lines key={run.day} day={run.day} lines={run.lines} rigs={rigs} />
            ))}
            {lines.length === 0 && <p>Nothing is in the book of this day.</p>}
          </article>,
          document.body,
        )}
    </>
  );
}
