import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Schemas } from "../api/client";
import { Button, Dialog } from "../ui";
import type { Desk } from "./desk";
import { differences } from "./differences";
import { Differences } from "./differences-table";
import type { Draft } from "./draft";

type Line = Schemas["RevisionLine"];
type Props<D extends object> = { open: boolean; onClose: () => void; draft: Draft<D>; desk: Desk<D>; what: string };

/** Every revision of a document, newest first, and a tap that brings one back: as a revision of its own, so that none is lost. */
export function History<D extends object>({ open, onClose, draft, desk, what }: Props<D>) {
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ["history", desk.path, draft.saved.revision],
    queryFn: ({ pageParam }) => desk.history(pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length && page.at(-1)!.number > 1 ? page.at(-1)!.number : undefined),
    enabled: open,
    retry: false,
  });
  const bring = useMutation({ mutationFn: (revision: number) => desk.backTo(revision) });
  const [compared, setCompared] = useState<number>();
  const then = useQuery({
    queryKey: ["revision", desk.path, compared],
    queryFn: () => desk.revision(compared!),
    enabled: open && compared !== undefined,
    staleTime: Infinity,
    retry: false,
  });
  const refused = [error, bring.error, then.error].find((one) => one instanceof Refusal);
  return (
    <Dialog open={open} onClose={onClose} title={`History of ${what}`}>
      {refused && (
        <p role="alert" className="mb-2 border-l-8 border-bad bg-raised px-3 py-2">
          {refused.answer.message} {refused.answer.hint}
        </p>
      )}
      <ol className="space-y-1">
        {data?.pages.flat().map((line) => (
          <li key={line.number} className={`flex flex-wrap items-center gap-3 rounded-md border-l-8 bg-raised px-3 py-1.5 ${line.is_head ? "border-lead" : "border-edge"}`}>
            <b className="w-10 text-right tabular-nums">{line.number}</b>
            <span className="min-w-0 flex-1">
              <span className="block">{line.is_readable ? line.name : "It cannot be read"}</span>
              <span className="text-sm text-soft">{toldOf(line)}</span>
            </span>
            {!line.is_head && line.is_readable && (
              <Button weight="quiet" aria-expanded={compared === line.number} aria-label={`What differs since revision ${line.number}`} onClick={() => setCompared(compared === line.number ? undefined : line.number)}>
                What differs
              </Button>
            )}
            {line.is_head ? (
              <span className="font-semibold">is shown</span>
            ) : (
              <Button disabled={bring.isPending || !line.is_readable} aria-label={`Bring revision ${line.number} back`} onClick={() => bring.mutate(line.number)}>
                Bring back
              </Button>
            )}
            {compared === line.number && then.data && <Since then={then.data} now={draft.document} number={line.number} />}
          </li>
        ))}
      </ol>
      {hasNextPage && (
        <Button className="mt-3" onClick={() => void fetchNextPage()}>
          Earlier ones
        </Button>
      )}
    </Dialog>
  );
}

/** What became different since one revision. */
function Since({ then, now, number }: { then: object; now: object; number: number }) {
  const found = differences(then, now);
  return (
    <div className="basis-full pb-2">
      {found.length > 0 ? <Differences found={found} mine={`Revision ${number}`} theirs="Now" /> : <p className="text-soft">Nothing that a person would see.</p>}
    </div>
  );
}

/** When it was made, what is in it, and with which revisions of one's own devices and cables. */
function toldOf(line: Line): string {
  const own = Object.entries(line.made_with).map(([key, number]) => `${key.slice(key.indexOf("/") + 1)} ${number}`);
  return [
    new Date(line.made_at).toLocaleString(),
    [`${line.devices} devices`, ...(line.promises ? [`${line.promises} promises`] : [])].join(", "),
    ...(line.shows === line.number ? [] : [`as revision ${line.shows}`]),
    ...(own.length ? [`made with ${own.join(", ")} of your own`] : []),
  ].join(" · ");
}
