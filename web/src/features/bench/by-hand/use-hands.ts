import { replaceEqualDeep, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type RefObject } from "react";

import { api, Refusal, told } from "../../../api/client";
import { useDraft } from "../../../rig";
import { changed, layOut, plugged, type AtBench, type End, type Held, type InHand, type Move, endFor } from "./model";

type Start = "cases" | "standing";
/** What somebody else did is asked for this much later. */
const OTHERS_MS = 200;
const at = (bench: string) => ({ params: { path: { bench } } });

/** The newest bench of a rig, and whether the rig is still as it was when that began. */
function useNewest() {
  const { rig } = useDraft();
  const client = useQueryClient();
  const key = ["benches", rig.id];
  const { data: lines } = useQuery({
    queryKey: key,
    queryFn: () => told(api.GET("/api/benches", { params: { query: { rig: rig.id } } })),
  });
  const newest = lines?.[0];
  const { data: beginning } = useQuery({
    queryKey: ["bench", newest?.id, "beginning"],
    queryFn: () => told(api.GET("/api/benches/{bench}/beginning", at(newest!.id))),
    enabled: Boolean(newest),
    staleTime: Infinity,
  });
  const begin = useMutation({
    mutationFn: (how: { start: Start; rehearses: boolean }) =>
      told(api.POST("/api/benches", { body: { document: rig, blind: false, ...how } })),
    onSuccess: () => client.invalidateQueries({ queryKey: key }),
  });
  const isOld = beginning !== undefined && JSON.stringify(beginning.document) !== JSON.stringify(rig);
  return { isKnown: lines !== undefined, newest, beginning, isOld, begin };
}

/** Hears when somebody else, or a program that stands in for a device, did something at the bench. */
function useFollowed(bench: string | undefined, last: RefObject<AtBench | undefined>) {
  const client = useQueryClient();
  useEffect(() => {
    if (!bench) return;
    let isOver = false;
    let timer = 0;
    let line: WebSocket | undefined;
    const follow = () => {
      line = new WebSocket(`${location.origin.replace(/^http/, "ws")}/api/benches/${bench}/follow`);
      line.onmessage = ({ data }) => {
        const { moves } = JSON.parse(String(data)) as { moves: number };
        // One's own move comes by its answer, which is drawn sooner than it could be asked for once more.
        window.setTimeout(() => {
          if (moves === last.current?.count) return;
          void client.invalidateQueries({ queryKey: ["bench", bench] });
          void client.invalidateQueries({ queryKey: ["benches"] });
        }, OTHERS_MS);
      };
      line.onclose = () => {
        if (!isOver) timer = window.setTimeout(follow, 3000);
      };
    };
    follow();
    return () => {
      isOver = true;
      window.clearTimeout(timer);
      line?.close();
    };
  }, [bench, client, last]);
}

/** The bench under the hands: what is seen there, what is held, what was done, and the way back. */
export function useHands() {
  const { isKnown, newest, beginning, isOld, begin } = useNewest();
  const client = useQueryClient();
  const [device, lookAt] = useState<string>();
  const [taken, hold] = useState<Held>();
  const [fresh, setFresh] = useState<string[]>([]);
  const id = newest?.id;
  const last = useRef<AtBench>(undefined);
  const key = ["bench", id, "at", device ?? ""];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => told(api.GET("/api/benches/{bench}", { params: { path: { bench: id! }, query: device ? { device } : {} } })),
    enabled: Boolean(id),
    placeholderData: (before: AtBench | undefined) => before,
    staleTime: Infinity,
  });
  useEffect(() => {
    if (!data) return;
    if (last.current && last.current.count !== data.count) setFresh(changed(last.current, data));
    last.current = data;
  }, [data]);
  const arrived = (now: AtBench) => {
    client.removeQueries({ queryKey: ["bench", id, "at"], predicate: (one) => one.queryKey[3] !== (device ?? "") });
    // What looks as before is the same object as before: it is not drawn anew.
    client.setQueryData<AtBench>(key, (before) => replaceEqualDeep(before, now));
    void client.invalidateQueries({ queryKey: ["bench", id, "ahead"] });
    void client.invalidateQueries({ queryKey: ["benches"] });
  };
  const made = useMutation({
    mutationFn: (move: Move) => told(api.POST("/api/benches/{bench}/moves", { ...at(id!), body: { move, device } })),
    onSuccess: arrived,
  });
  const back = useMutation({
    mutationFn: (moves: number) => told(api.POST("/api/benches/{bench}/back", { ...at(id!), body: { moves, device } })),
    onSuccess: arrived,
  });
  useFollowed(id, last);
  // Somebody else, or a step of the sheet, may have plugged meanwhile what is held here.
  const lies = data?.lying.find(({ tag }) => tag === taken?.cable.tag);
  const held = lies?.left === 0 ? undefined : taken;
  const put = usePut(held, hold, (move) => made.mutate(move));
  const take = (cable: InHand, isLaidOut: boolean, into?: End) => {
    if (!isLaidOut) made.mutate(layOut(cable));
    const first = into && { ...into, number: endFor(cable, into.connector) };
    hold({ cable, keepOneOut: false, first });
  };
  const beginAnew = (how: { start: Start; rehearses: boolean }) => {
    hold(undefined);
    setFresh([]);
    last.current = undefined;
    begin.mutate(how);
  };
  const refusal = [made.error, back.error, begin.error, error].find((one) => one instanceof Refusal);
  return {
    isKnown,
    bench: data,
    newest,
    beginning,
    isOld,
    beginAnew,
    isBeginning: begin.isPending,
    device,
    lookAt,
    held,
    hold,
    fresh,
    put,
    take,
    refusal,
    go: made.mutate,
    undo: () => data && data.count > 0 && back.mutate(data.count - 1),
    redo: () => data && back.mutate(data.count + 1),
  };
}

export type Hands = ReturnType<typeof useHands>;

/** A plug into a port: the first one waits there for the second, which joins the two. */
function usePut(held: Held | undefined, hold: (held: Held | undefined) => void, go: (move: Move) => void) {
  return (end: End) => {
    if (!held) return;
    if (held.first?.device === end.device && held.first.port === end.port) {
      hold({ cable: held.cable, keepOneOut: held.keepOneOut });
      return;
    }
    const move = plugged(held, end);
    if (!move) {
      hold({ ...held, first: { ...end, number: endFor(held.cable, end.connector) } });
      return;
    }
    go(move);
    hold(undefined);
  };
}

/** Where the sheet would go on from here. */
export function useAhead(bench: string | undefined, isWanted: boolean) {
  return useQuery({
    queryKey: ["bench", bench, "ahead"],
    queryFn: () => told(api.GET("/api/benches/{bench}/ahead", at(bench!))),
    enabled: Boolean(bench) && isWanted,
    placeholderData: (before) => before,
  });
}
