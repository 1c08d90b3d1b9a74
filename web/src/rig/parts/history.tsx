import { useInfiniteQuery, useMutation } from "@tanstack/react-query";

import { Refusal } from "../../api/client";
import { Button, Dialog } from "../../ui";
import { backTo, historyPage } from "../queries";
import { useDraft } from "../use-draft";
import { Problems } from "./problems";

/** Every revision of the rig, newest first, and a tap that brings one back: as a revision of its own, so that none is lost. */
export function History({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { rig, saved, desk } = useDraft();
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ["history", rig.id, saved.revision],
    queryFn: ({ pageParam }) => historyPage(rig.id, pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length && page.at(-1)!.number > 1 ? page.at(-1)!.number : undefined),
    enabled: open,
    retry: false,
  });
  const bring = useMutation({
    mutationFn: async (revision: number) => {
      await desk.whenSaved();
      return backTo(rig.id, revision, desk.now().saved.revision);
    },
    onSuccess: (found) => desk.send({ type: "moved", saved: found }),
  });
  const refused = [error, bring.error].find((one) => one instanceof Refusal);
  return (
    <Dialog open={open} onClose={onClose} title={`History of ${rig.name}`}>
      <Problems refusal={refused} />
      <ol className="space-y-1">
        {data?.pages.flat().map((line) => (
          <li key={line.number} className={`flex flex-wrap items-center gap-3 rounded-md border-l-8 bg-raised px-3 py-1.5 ${line.is_head ? "border-lead" : "border-edge"}`}>
            <b className="w-10 text-right tabular-nums">{line.number}</b>
            <span className="min-w-0 flex-1">
              <span className="block">{line.is_readable ? line.name : "It cannot be read"}</span>
              <span className="text-sm text-soft">
                {new Date(line.made_at).toLocaleString()} · {line.devices} devices, {line.promises} promises
                {line.shows !== line.number ? ` · as revision ${line.shows}` : ""}
              </span>
            </span>
            {line.is_head ? (
              <span className="font-semibold">is shown</span>
            ) : (
              <Button disabled={bring.isPending || !line.is_readable} aria-label={`Bring revision ${line.number} back`} onClick={() => bring.mutate(line.number)}>
                Bring back
              </Button>
            )}
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
