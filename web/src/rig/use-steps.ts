import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import { Refusal, type Reading, type Rig, type Schemas, type Stands } from "../api/client";
import type { Noted } from "./incidents";
import {
  inLine,
  leaveLine,
  listenToLine,
  putInLine,
  retryAfter,
  useAskBeforeClosing,
  useReached,
  type DraftSync,
  type Waiting,
} from "../keeping";
import * as queries from "./queries";
import { usePerson } from "./use-person";

export type Mark = Schemas["Mark"];
/** What is said of a step. */
export type What = "done" | "taken-back" | "skipped" | "differs";
/** What goes with it: readings, photos. */
export type More = { reason?: string; readings?: Reading[]; photos?: string[] };

const NONE: Stands = { steps: {}, given: {}, happened: [], search: null };
const OF_STEPS = ["done", "taken-back", "skipped", "differs"];
const NOTED = ["restarted", "battery-changed"];
export type Answered = Schemas["Answered"];
const MOST_AT_ONCE = 200;

/** How the day stands once what waits in line has arrived. */
export function withWaiting(stands: Stands, waiting: readonly Waiting[]): Stands {
  if (waiting.length === 0) return stands;
  const steps = new Map(Object.entries(stands.steps));
  const given = new Map(Object.entries(stands.given));
  let { search = null } = stands;
  const happened = [...(stands.happened ?? [])];
  for (const { subject, what, at, reason, person = "", more } of waiting) {
    if (what === "found" || what === "given-up") search = null;
    else if (what === "unlooked") search = search?.filter((one) => one.look !== subject) ?? null;
    else if (what === "looked") {
      const answer = more?.answer as Answered["answer"];
      const times = 1 + (search?.find((one) => one.look === subject)?.times ?? 0);
      const given = { look: subject, answer, saw: reason ?? "", at: new Date(at).toISOString(), person, times };
      search = [...(search ?? []).filter((one) => one.look !== subject), given];
    } else if (NOTED.includes(what)) happened.push({ what: what as Noted, device: subject, at: new Date(at).toISOString() });
    else if (what === "given") {
      if (more?.to) given.set(subject, String(more.to));
      else given.delete(subject);
    } else if (what === "taken-back") steps.delete(subject);
    else if (OF_STEPS.includes(what))
      steps.set(subject, {
        readings: [],
        photos: [],
        ...more,
        what: what as What,
        at: new Date(at).toISOString(),
        person,
        revision: 0,
        reason: reason ?? null,
      });
  }
  return { steps: Object.fromEntries(steps), given: Object.fromEntries(given), happened, search };
}

/** What is wrong with an entry itself. Whoever has to join again, or joined to look on, sends it once he may. */
const ABOUT_IT = [400, 404, 409, 413, 415, 422];
const isFinal = (error: unknown) => error instanceof Refusal && ABOUT_IT.includes(error.status);
/** What whoever ticked can do something about. */
const isTold = (error: unknown) => error instanceof Refusal && (isFinal(error) || error.status === 403);

/** One that is refused for good is told, and goes: it must not hold up those that came with it, nor those behind it. */
async function eachByItself(
  error: unknown,
  sent: readonly Waiting[],
  into: (some: readonly Waiting[]) => Promise<void>,
  drop: (one: Waiting) => void,
): Promise<void> {
  if (!isFinal(error)) throw error;
  let refused: unknown;
  for (const one of sent) {
    try {
      if (sent.length === 1) throw error;
      await into([one]);
    } catch (why) {
      if (!isFinal(why)) throw why;
      drop(one);
      refused = why;
    }
  }
  if (refused) throw refused;
}

/** Sends what waits in line of a rig, oldest first, as soon as the server is reached. */
function useSending(id: string, sync: DraftSync<Rig>, waiting: readonly Waiting[]) {
  const path = `rig/${id}`;
  const client = useQueryClient();
  const query = queries.stepsQuery(id);
  const isReached = useReached();
  const send = useMutation({
    scope: { id: `log-${id}` },
    retry: (_, error) => !isFinal(error),
    retryDelay: (tries) => retryAfter(tries + 1),
    mutationFn: async () => {
      // A step of a sheet is done once the sheet's rig is saved: until then the server knows of no such step.
      await sync.whenSaved();
      const newest = sync.now().saved.revision;
      const [first, ...others] = inLine(path);
      if (!first) return;
      const revision = first.revision ?? newest;
      const alike = (one: Waiting) => (one.revision ?? newest) === revision && one.person === first.person;
      const sent = [first, ...others.filter(alike)].slice(0, MOST_AT_ONCE);
      const into = async (some: readonly Waiting[]) => {
        client.setQueryData(query.queryKey, await queries.addToLog(id, some, revision, first.person ?? ""));
        leaveLine(path, some);
      };
      await into(sent).catch((error: unknown) => eachByItself(error, sent, into, (one) => leaveLine(path, [one])));
    },
    onError: () => client.invalidateQueries({ queryKey: query.queryKey }),
  });
  const { mutate, isPending } = send;
  const some = waiting.length > 0;
  useEffect(() => {
    if (some && isReached && !isPending) mutate();
  }, [some, isReached, isPending, mutate, waiting]);
  return { error: send.error ?? send.failureReason, isLate: send.failureCount > 0 || !isReached };
}

/** How the steps of a rig's run sheet stand, and saying so: seen at once, and in line until it is in the log. */
export function useSteps(id: string, sync: DraftSync<Rig>) {
  const path = `rig/${id}`;
  const client = useQueryClient();
  const [person] = usePerson();
  const query = queries.stepsQuery(id);
  const { data } = useQuery(query);
  const waiting = useSyncExternalStore(listenToLine, () => inLine(path));
  const some = waiting.length > 0;
  const [hasRoom, setRoom] = useState(true);
  const sending = useSending(id, sync, waiting);
  const clear = useMutation({ mutationFn: () => queries.newDay(id), onSuccess: () => client.setQueryData(query.queryKey, NONE) });
  const log = useCallback(
    (what: Schemas["Entry"]["what"], subjects: readonly string[], reason?: string, more?: Record<string, unknown>) => {
      const revision = sync.state() === "saved" ? sync.now().saved.revision : undefined;
      setRoom(
        putInLine(
          path,
          subjects.map((subject) => ({ what, subject, revision, reason, more, person })),
        ),
      );
    },
    [sync, path, person],
  );
  const say = useCallback((steps: readonly string[], what: What, { reason, ...more }: More = {}) => log(what, steps, reason, more), [log]);
  const happen = useCallback((what: Noted, device: string) => log(what, [device]), [log]);
  const give = useCallback((subjects: readonly string[], to: string | null) => log("given", subjects, undefined, { to }), [log]);
  useAskBeforeClosing(!hasRoom && some);
  const { steps: marks, given, happened, search } = useMemo(() => withWaiting(data ?? NONE, waiting), [data, waiting]);
  const ticks = useMemo(
    () => Object.fromEntries(Object.entries(marks).flatMap(([step, mark]) => (mark.what === "done" ? [[step, mark.at]] : []))),
    [marks],
  );
  const tick = useCallback((steps: readonly string[], done: boolean) => say(steps, done ? "done" : "taken-back"), [say]);
  const untickAll = clear.mutate;
  const late = some && sending.isLate ? waiting.length : 0;
  const logRefusal = [sending.error, clear.error].find(isTold) as Refusal | undefined;
  return useMemo(
    () => ({
      /** Step -> how it stands, of all of which anything was said. */
      marks,
      /** Step, stage or device -> whose it is. */
      given,
      /** Step -> since when it is done. */
      ticks,
      /** What befell devices today. */
      happened,
      /** What was seen since the search for what is wrong began; nothing where nobody searches. */
      search,
      tick,
      /** Say something else of steps: that they are skipped or do not look as they should, and why. */
      say,
      /** Say that something happened to a device: what rested on it has to be proven again. */
      happen,
      /** Give steps, stages or devices to somebody, or to nobody. */
      give,
      /** Put anything else into the log of this rig. */
      log,
      untickAll,
      /** So many things that were done did not arrive yet, and wait in this browser. */
      inLine: late,
      logRefusal,
    }),
    [marks, given, ticks, happened, search, tick, say, happen, give, log, untickAll, late, logRefusal],
  );
}
