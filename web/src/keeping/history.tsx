import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";

import { Refusal, type Schemas } from "../api/client";
import { Button, Choose, counted, Dialog } from "../ui";
import type { DraftSync } from "./draft-sync";
import { differences } from "./differences";
import { Differences } from "./differences-table";
import type { Draft } from "./draft";

type RevisionLine = Schemas["RevisionLine"];
type Props<D extends object> = {
  open: boolean;
  onClose: () => void;
  draft: Draft<D>;
  sync: DraftSync<D>;
  what: string;
  /** How what differs is told of this kind of document; left out: field by field. */
  compare?: (then: D, now: D, named: { then: string; now: string }) => ReactNode;
  /** What stands above the revisions; `ask` shows what differs since one of them. */
  above?: (ask: (revision: number) => void) => ReactNode;
};

/** Every revision of a document, newest first, and a tap that brings one back: as a revision of its own, so that none is lost. */
export function History<D extends object>({ open, onClose, draft, sync, what, compare, above }: Props<D>) {
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ["history", sync.path, draft.saved.revision],
    queryFn: ({ pageParam }) => sync.history(pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length && page.at(-1)!.number > 1 ? page.at(-1)!.number : undefined),
    enabled: open,
    retry: false,
  });
  const bring = useMutation({ mutationFn: (revision: number) => sync.backTo(revision) });
  const [compared, setCompared] = useState<number>();
  const [beside, setBeside] = useState<number>();
  const then = useRevision(sync, open ? compared : undefined);
  const other = useRevision(sync, open ? beside : undefined);
  const lines = data?.pages.flat() ?? [];
  const now = beside === undefined ? draft.document : other.data;
  const named = { then: `Revision ${compared}`, now: beside === undefined ? "Now" : `Revision ${beside}` };
  const refused = [error, bring.error, then.error].find((one) => one instanceof Refusal);
  return (
    <Dialog open={open} onClose={onClose} title={`History of ${what}`}>
      {refused && (
        <p role="alert" className="mb-2 border-l-8 border-bad bg-raised px-3 py-2">
          {refused.answer.message} {refused.answer.hint}
        </p>
      )}
      {above?.(setCompared)}
      <ol className="space-y-1">
        {lines.map((line) => (
          <Line
            key={line.number}
            line={line}
            isCompared={compared === line.number}
            isBusy={bring.isPending}
            onCompare={() => setCompared(compared === line.number ? undefined : line.number)}
            onBring={() => bring.mutate(line.number)}
          >
            <Choose
              label="Compared with"
              value={String(beside ?? "")}
              choices={[
                { value: "", label: "with now" },
                ...lines
                  .filter((one) => one.number !== line.number && one.is_readable)
                  .map((one) => ({ value: String(one.number), label: `with revision ${one.number}` })),
              ]}
              onChange={(value) => setBeside(value ? Number(value) : undefined)}
            />
            {then.data && now && (compare ? compare(then.data, now, named) : <Since then={then.data} now={now} named={named} />)}
          </Line>
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

/** The document as it stood at a revision, fetched once. */
function useRevision<D extends object>(sync: DraftSync<D>, number: number | undefined) {
  return useQuery({
    queryKey: ["revision", sync.path, number],
    queryFn: () => sync.revision(number!),
    enabled: number !== undefined,
    staleTime: Infinity,
    retry: false,
  });
}

/** One revision, what can be done with it, and below it, while it is compared, what differs. */
function Line({
  line,
  isCompared,
  isBusy,
  onCompare,
  onBring,
  children,
}: {
  line: RevisionLine;
  isCompared: boolean;
  isBusy: boolean;
  onCompare: () => void;
  onBring: () => void;
  children: ReactNode;
}) {
  return (
    <li
      className={`flex flex-wrap items-center gap-3 rounded-md border-l-8 bg-raised px-3 py-1.5 ${line.is_head ? "border-lead" : "border-edge"}`}
    >
      <b className="w-10 text-right tabular-nums">{line.number}</b>
      <span className="min-w-0 flex-1">
        <span className="block">{line.is_readable ? line.name : "It cannot be read"}</span>
        <span className="text-sm text-soft">{toldOf(line)}</span>
      </span>
      {!line.is_head && line.is_readable && (
        <Button weight="quiet" aria-expanded={isCompared} aria-label={`What differs since revision ${line.number}`} onClick={onCompare}>
          What differs
        </Button>
      )}
      {line.is_head ? (
        <span className="font-semibold">is shown</span>
      ) : (
        <Button disabled={isBusy || !line.is_readable} aria-label={`Bring revision ${line.number} back`} onClick={onBring}>
          Bring back
        </Button>
      )}
      {isCompared && <div className="basis-full space-y-2 pb-2">{children}</div>}
    </li>
  );
}

/** What became different since one revision. */
function Since({ then, now, named }: { then: object; now: object; named: { then: string; now: string } }) {
  const found = differences(then, now);
  return found.length > 0 ? (
    <Differences found={found} mine={named.then} theirs={named.now} />
  ) : (
    <p className="text-soft">Nothing that a person would see.</p>
  );
}

/** When it was made, what is in it, and with which revisions of one's own devices and cables. */
function toldOf(line: RevisionLine): string {
  const own = Object.entries(line.made_with).map(([key, number]) => `${key.slice(key.indexOf("/") + 1)} ${number}`);
  return [
    [line.person, new Date(line.made_at).toLocaleString()].filter(Boolean).join(", "),
    [counted(line.devices, "device"), ...(line.promises ? [counted(line.promises, "promise")] : [])].join(", "),
    ...(line.shows === line.number ? [] : [`as revision ${line.shows}`]),
    ...(own.length ? [`made with ${own.join(", ")} of your own`] : []),
  ].join(" · ");
}
