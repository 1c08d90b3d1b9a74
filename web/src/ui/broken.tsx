import { useRouteError } from "react-router";

import { Button } from "./button";

/**
 * In the place of a page that failed: what is safe, what went wrong in its own words, and two ways back. Every page and
 * every screen has it, so that a fault in one leaves the frame and all others standing.
 */
export function Broken() {
  const error = useRouteError();
  const says = error instanceof Error ? error.message : typeof error === "string" ? error : "It gave no reason.";
  return (
    <section role="alert" aria-label="This page failed" className="mx-auto flex max-w-2xl flex-col gap-4 p-6">
      <h1 className="text-2xl font-bold">This page failed</h1>
      <p className="text-lg">
        What was saved is safe, and what waits to be saved still waits. Load the page again; if it fails once more, go another way.
      </p>
      <p className="rounded-md bg-raised p-3 font-mono text-soft">{says}</p>
      <div className="flex flex-wrap gap-2">
        <Button weight="lead" onClick={() => window.location.reload()}>
          Load it again
        </Button>
        <Button onClick={() => window.location.assign("/")}>To all rigs</Button>
      </div>
    </section>
  );
}
