import type { QueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";

import { api, told } from "../api/client";
import { heardOf, tryAgain } from "./draft-sync";

/** That something became of a document, as the stream of events tells it. */
type Change = { sequence: number; at: string; kind: string; id: string; what: string; revision: number; subject: string };
type Message = { change: Change } | { reached: boolean };

const LOCK = "isotact-live";
const AGAIN_MS = 2_000;

let reached = true;
const listeners = new Set<() => void>();

/** Whether the server on this laptop answers. */
export const useReached = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => reached,
  );

function setReached(client: QueryClient, now: boolean): void {
  if (now === reached) return;
  reached = now;
  listeners.forEach((listener) => listener());
  if (!now) return;
  tryAgain();
  void client.refetchQueries({ predicate: (query) => query.state.status === "error" });
}

type Again = (...queryKey: string[]) => void;
type Stales = (change: Change, again: Again, client: QueryClient) => void;

/** Every answer kept in this page was made with the catalogue of before. */
const catalogue: Stales = (_, again, client) => {
  client.removeQueries({ type: "inactive" });
  for (const key of ["catalogue", "own", "answer"]) again(key);
};

/** What a change of each kind of document makes stale: a kind is registered here. One that is not is none of this page's. */
const KINDS: Partial<Record<string, Stales>> = {
  rig: (change, again, client) => {
    if (change.what === "tried") {
      again("recipes");
      again("offers");
    }
    if (change.subject || change.what === "cleared") return again("steps", change.id);
    if (change.what === "note") return;
    again("rigs");
    again("bin");
    heardOf(`rig/${change.id}`, change.revision);
    // One that is not open is read afresh when it is opened.
    client.removeQueries({ queryKey: ["rig", change.id], type: "inactive" });
  },
  recipe: (_, again) => {
    again("recipes");
    again("offers");
  },
  kit: (change, again) => {
    again("kits");
    heardOf(`kit/${change.id}`, change.revision);
  },
  job: (change, again) => {
    again("jobs");
    heardOf(`job/${change.id}`, change.revision);
  },
  profile: catalogue,
  cable: catalogue,
  words: catalogue,
};

/** What a change makes stale in this page. */
export function stale(client: QueryClient, change: Change): void {
  if (change.kind === "all") {
    // Everything was put in the place of everything.
    void client.invalidateQueries();
    return;
  }
  const again: Again = (...queryKey) => void client.invalidateQueries({ queryKey });
  again("log");
  KINDS[change.kind]?.(change, again, client);
}

/**
 * Hear what becomes of documents, whoever does it. One tab of the browser has the line, since a browser opens only six
 * to one server; it hands on to the others, and when it is closed the next one takes over.
 */
export function listen(client: QueryClient): void {
  const others = new BroadcastChannel(LOCK);
  let seen = 0;
  const take = (message: Message) => {
    if ("reached" in message) return setReached(client, message.reached);
    if (message.change.sequence <= seen) return;
    seen = message.change.sequence;
    stale(client, message.change);
  };
  const tell = (message: Message) => {
    take(message);
    others.postMessage(message);
  };
  others.onmessage = (event: MessageEvent<Message>) => take(event.data);
  const lead = async () => {
    seen = Math.max(seen, (await told(api.GET("/api/state")).catch(() => undefined))?.sequence ?? 0);
    const open = () => {
      const line = new EventSource(`/api/events?after=${seen}`);
      line.onopen = () => tell({ reached: true });
      line.addEventListener("change", (event) => tell({ change: JSON.parse((event as MessageEvent<string>).data) as Change }));
      line.onerror = () => {
        // A browser gives up on a line that was answered with an error; ours comes back when the server does.
        line.close();
        tell({ reached: false });
        // Whose sign-in was ended is told so by any answer; who cannot be reached at all is not.
        void told(api.GET("/api/state")).catch(() => undefined);
        window.setTimeout(open, AGAIN_MS);
      };
    };
    open();
  };
  if (navigator.locks) void navigator.locks.request(LOCK, () => lead().then(() => new Promise<void>(() => {})));
  else void lead();
}
