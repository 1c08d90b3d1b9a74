import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { api, Refusal, told } from "../api/client";
import { Button, ProgressBar } from "../ui";
import { Problems } from "./parts/problems";

/** This page's own part of the names of its searches, by which they are followed and stopped. */
const PAGE = `page-${Math.random().toString(36).slice(2)}`;
const LONG_MS = 1200;
const LOOK_EVERY_MS = 300;

const named = (name: string) => `${PAGE}-${name}`.slice(0, 64);

/** How a search is asked for: it can be followed and stopped, and ends when nobody waits for it any more. */
export const followed = (name: string, signal: AbortSignal | undefined) => ({ params: { query: { search: named(name) } }, signal });

export const stopSearch = (name: string) => told(api.POST("/api/searches/{search}/stop", { params: { path: { search: named(name) } } }));

/** Whether something has been going on for so long that somebody wonders. */
function useLong(going: boolean): boolean {
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setLong(going), going ? LONG_MS : 0);
    return () => window.clearTimeout(timer);
  }, [going]);
  return going && isLong;
}

/** What a search is at, once it takes long; and the button that stops it. */
export function Progress({ name, going, says, stop }: { name: string; going: boolean; says: string; stop: string }) {
  const isLong = useLong(going);
  const { data } = useQuery({
    queryKey: ["search", name],
    queryFn: () => told(api.GET("/api/searches/{search}", { params: { path: { search: named(name) } } })),
    enabled: isLong,
    refetchInterval: LOOK_EVERY_MS,
    gcTime: 0,
    retry: false,
  });
  if (!isLong) return null;
  const stage = data?.is_waiting ? "Waiting for what was asked before" : data?.stage || says;
  return (
    <div role="status" className="mb-3 flex flex-wrap items-center gap-4 rounded-md border border-lead bg-panel p-3">
      <ProgressBar label={stage} done={data?.done} of={data?.of} className="min-w-32 flex-1" />
      <span>
        {stage}
        {data?.of && data.of > 2 ? `, ${data.done} of ${data.of}` : ""}. {data && data.seconds > 2 ? `${Math.round(data.seconds)} s.` : ""}
      </span>
      <Button onClick={() => void stopSearch(name)} disabled={data?.is_stopped ?? false}>
        {stop}
      </Button>
    </div>
  );
}

type Asked = { data?: unknown; error: Error | null; isFetching: boolean; refetch: () => unknown };

/** What stands where an answer is to come: that it is looked for, or why there is none and how to ask again. */
export function Waiting({ name, query, says }: { name: string; query: Asked; says: string }) {
  return (
    <>
      {query.data === undefined && query.isFetching && <p className="mb-2 text-soft">{says}.</p>}
      <Progress name={name} going={query.isFetching} says={says} stop="Stop" />
      {query.error && !query.isFetching && (
        <div className="mb-3">
          <Problems refusal={query.error instanceof Refusal ? query.error : undefined} />
          <Button className="mt-2" onClick={() => void query.refetch()}>
            Look again
          </Button>
        </div>
      )}
    </>
  );
}
