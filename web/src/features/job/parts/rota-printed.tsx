import { createPortal } from "react-dom";

import { Button, usePrinting } from "../../../ui";
import { byClock, type Rota } from "../rota";

/** Prints what is to be done when, with a box to tick. */
export function PrintRota({ rota, name }: { rota: Rota; name: string }) {
  const [isPrinting, print] = usePrinting();
  return (
    <>
      <Button className="max-md:hidden" onClick={print}>
        Print
      </Button>
      {isPrinting &&
        createPortal(
          <article data-report="rota" className="hidden print:block">
            <h1 className="mb-1 text-xl font-bold">
              {name}: packs, {rota.date}
            </h1>
            <p className="mb-3">{rota.says}</p>
            {byClock(rota.acts).map((time) => (
              <section key={time.at} className="flex break-inside-avoid gap-4 border-b border-edge py-2">
                <b className="w-16 text-lg tabular-nums">{time.clock}</b>
                <ul>
                  {time.acts.map((act) => (
                    <li key={act.says}>
                      <span aria-hidden className="mr-2 inline-block size-3 border border-ink" />
                      {act.says}
                      <span className="text-soft">
                        {act.where && `, ${act.where}`}
                        {act.takes_min > 0 && `, ${act.takes_min} min`}
                        {act.spoils && ", within a take"}
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            ))}
            {(rota.cautions ?? []).map((one) => (
              <p key={one} className="mt-2">
                {one}
              </p>
            ))}
          </article>,
          document.body,
        )}
    </>
  );
}
