import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";

import { Refusal } from "../../../api/client";
import { Page, Problems, rigsQuery } from "../../../rig";
import { Button, Empty, Panel, TextInput, today } from "../../../ui";
import { byDay } from "../model";
import { linesOf, PAGE, type Wanted } from "../queries";
import { Filters } from "./filters";
import { Lines } from "./lines";
import { Print } from "./print";
import { WriteNote } from "./write-note";

/** The log book: what everybody did, newest first; searched, filtered, written in, and a day of it taken along. */
export function LogScreen() {
  const { data: rigs = [] } = useQuery(rigsQuery);
  const [wanted, setWanted] = useState<Wanted>({});
  const words = useDeferredValue(wanted.words);
  const asked: Wanted = { ...wanted, words: words?.trim() || undefined };
  const { data, error, hasNextPage, fetchNextPage, isPlaceholderData } = useInfiniteQuery({
    queryKey: ["log", "lines", asked],
    queryFn: ({ pageParam, signal }) => linesOf(asked, pageParam, signal),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length === PAGE ? page.at(-1)?.sequence : undefined),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const lines = data?.pages.flat() ?? [];
  const day = wanted.day ?? today();
  return (
    <Page here="/log">
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <Panel title="Log book" className="max-lg:order-last">
          <Filters rigs={rigs.map(({ document }) => document)} wanted={wanted} onWanted={setWanted} />
          {error && <Problems refusal={error instanceof Refusal ? error : undefined} />}
          <div className={isPlaceholderData ? "opacity-60" : ""}>
            {byDay(lines).map((run) => (
              <Lines
                key={`${run.day} ${run.lines[0]?.sequence}`}
                day={run.day}
                lines={run.lines}
                rigs={rigs.map(({ document }) => document)}
              />
            ))}
          </div>
          {data && lines.length === 0 && (
            <Empty title="Nothing in the book is like that">Take a filter off, or look for fewer words.</Empty>
          )}
          {hasNextPage && (
            <Button className="mt-3" onClick={() => void fetchNextPage()}>
              Earlier ones
            </Button>
          )}
        </Panel>
        <div className="space-y-3 print:hidden">
          <WriteNote rigs={rigs} />
          <Panel title="Day report">
            <label className="mb-2 flex items-center gap-2">
              <span>Day</span>
              <TextInput
                type="date"
                value={day}
                max={today()}
                onChange={(event) => setWanted({ ...wanted, day: event.target.value || undefined })}
                className="flex-1"
              />
            </label>
            <div className="flex flex-wrap gap-2">
              <Report day={day} form="csv" rig={wanted.rig}>
                Table (CSV)
              </Report>
              <Report day={day} form="jsonl" rig={wanted.rig}>
                JSON lines
              </Report>
              <Print day={day} rig={wanted.rig} rigs={rigs.map(({ document }) => document)} />
            </div>
          </Panel>
        </div>
      </div>
    </Page>
  );
}

function Report({ day, form, rig, children }: { day: string; form: string; rig?: string; children: string }) {
  return (
    <a
      href={`/api/log/days/${day}/${form}${rig ? `?rig=${rig}` : ""}`}
      download
      className="flex min-h-11 items-center rounded-md border border-edge bg-raised px-3"
    >
      {children}
    </a>
  );
}
