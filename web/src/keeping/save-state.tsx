import { useState, useSyncExternalStore } from "react";
import { useBlocker } from "react-router";

import { Button, Dialog, saveFile } from "../ui";
import type { DraftSync } from "./draft-sync";
import { stateOf, type Draft } from "./draft";
import { useReached } from "./live";
import { TwoVersions } from "./two-versions";
import { isBehind, listenToVault } from "./vault";

const LOOKS = {
  saved: { mark: "✔", says: "Saved", look: "text-soft" },
  saving: { mark: "…", says: "Saving", look: "text-soft" },
  "not saved": { mark: "▲", says: "Not saved", look: "border-2 border-warn text-warn font-bold" },
  "two versions": { mark: "⇄", says: "Two versions", look: "border-2 border-bad text-bad font-bold" },
} as const;

/** Whether what is on the screen is saved; what keeps it from being; and the two versions where there are two. */
export function SaveState<D extends object>({ draft, sync, what }: { draft: Draft<D>; sync: DraftSync<D>; what: string }) {
  const isReached = useReached();
  const isBeingKept = useSyncExternalStore(listenToVault, isBehind);
  const [isOpen, setOpen] = useState(false);
  const [settlingOf, setSettling] = useState<number>();
  const state = stateOf(draft);
  const { mark, says, look } = LOOKS[state];
  const head = draft.other?.head;
  const isSettling = state === "two versions" && settlingOf !== head;
  const words = (
    <>
      <span aria-hidden>{mark}</span> <span className={state === "saved" || state === "saving" ? "max-md:sr-only" : ""}>{says}</span>
    </>
  );
  return (
    <>
      <span role="status" aria-label={`${what}: ${says}`} className="shrink-0">
        {state === "saved" || state === "saving" ? (
          <span className={`flex min-h-11 items-center gap-1 px-2 max-sm:px-0 ${look}`}>{words}</span>
        ) : (
          <button
            type="button"
            className={`flex min-h-11 items-center gap-1 rounded-md bg-raised px-3 max-sm:px-2 ${look}`}
            onClick={() => (state === "two versions" ? setSettling(undefined) : setOpen(true))}
          >
            {words}
          </button>
        )}
      </span>
      <Dialog open={isOpen && state === "not saved"} onClose={() => setOpen(false)} title="Not saved yet">
        <p>{isReached ? draft.refusal?.answer.message : "The server on this laptop does not answer."}</p>
        <p className="mt-2">{draft.refusal?.answer.hint}</p>
        <ul className="mt-2 list-disc pl-5">
          {(draft.refusal?.answer.problems ?? []).slice(0, 8).map((problem) => (
            <li key={problem.path + problem.message}>
              {problem.path}: {problem.message} {problem.hint}
            </li>
          ))}
        </ul>
        <p className="mt-2">
          {draft.phase === "retrying" ? "It is tried again by itself. " : "It is tried again with the next change. "}
          {isBeingKept
            ? "Your work is being put down in this browser."
            : "Your work is kept in this browser meanwhile, whatever happens to it."}
        </p>
        <div className="mt-4 flex flex-wrap gap-3">
          <Button weight="lead" onClick={sync.again}>
            Try again now
          </Button>
          <Button onClick={() => saveAsFile(draft.document)}>Save as a file</Button>
        </div>
      </Dialog>
      {draft.other && (
        <TwoVersions
          open={isSettling}
          what={what}
          mine={draft.document}
          other={draft.other}
          madeOn={draft.saved.revision}
          refusal={draft.refusal}
          onLater={() => setSettling(head)}
          onSettle={(keep) => sync.send({ type: "settle", keep })}
        />
      )}
      <BeforeLeaving unsaved={state === "not saved" || state === "two versions"} />
    </>
  );
}

/** The question before another page of ours is opened; the window has its own. */
function BeforeLeaving({ unsaved }: { unsaved: boolean }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => unsaved && placeOf(currentLocation.pathname) !== placeOf(nextLocation.pathname),
  );
  const stay = () => blocker.state === "blocked" && blocker.reset();
  return (
    <Dialog open={blocker.state === "blocked"} onClose={stay} title="Not saved yet">
      <p>What you changed is kept in this browser only. It is taken up when you open this again, here.</p>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button weight="lead" onClick={stay}>
          Stay
        </Button>
        <Button onClick={() => blocker.state === "blocked" && blocker.proceed()}>Leave all the same</Button>
      </div>
    </Dialog>
  );
}

/** The document that an address is about: its screens all work on the one draft. */
const placeOf = (pathname: string) => pathname.split("/").slice(0, 3).join("/");

function saveAsFile(document: object): void {
  saveFile(JSON.stringify(document, null, 1), `${(document as { id?: string }).id ?? "document"}.json`, "application/json");
}
