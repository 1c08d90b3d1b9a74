import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Outlet, useParams } from "react-router";

import { Refusal } from "../../api/client";
import { rigQuery } from "../queries";
import type { Screen } from "../screens";
import { AnswerProvider, useAnswer } from "../use-answer";
import { DraftProvider, useDraft } from "../use-draft";
import { RunProvider } from "../use-run";
import { PromiseDrawer } from "./drawer";
import { LongSearch } from "./long-search";
import { Problems } from "./problems";
import { Rail } from "./rail";
import { StaleDialog } from "./stale-dialog";
import { PromiseStrip } from "./strip";
import { TopBar } from "./top-bar";

/** One rig: opens it and puts the screens of the job around it. */
export function RigShell({ screens }: { screens: Screen[] }) {
  const { rigId = "" } = useParams();
  const { data, error } = useQuery(rigQuery(rigId));
  if (error) {
    return (
      <main className="mx-auto max-w-3xl p-6">
        <h1 className="text-2xl font-bold">This rig cannot be opened</h1>
        <Problems refusal={error instanceof Refusal ? error : undefined} />
        <Link className="mt-4 inline-flex min-h-11 items-center underline" to="/">
          To the rigs of the day
        </Link>
      </main>
    );
  }
  if (!data) return <main className="p-6 text-soft">Opening the rig.</main>;
  return (
    <DraftProvider key={rigId} first={data}>
      <AnswerProvider>
        <RunProvider>
          <Frame screens={screens} />
        </RunProvider>
      </AnswerProvider>
    </DraftProvider>
  );
}

function Frame({ screens }: { screens: Screen[] }) {
  const { refusal, stale } = useDraft();
  const { refusal: notPlanned, light } = useAnswer();
  const [open, setOpen] = useState<string>();
  return (
    <div className="flex h-screen flex-col">
      <TopBar screens={screens} />
      <PromiseStrip onOpen={setOpen} />
      <div className="flex min-h-0 flex-1 flex-col md:flex-row">
        <Rail screens={screens} />
        <main className="min-h-0 min-w-0 flex-1 overflow-auto p-3">
          <Problems refusal={notPlanned ?? refusal} />
          <LongSearch />
          <Outlet />
        </main>
      </div>
      <PromiseDrawer
        promise={open}
        onClose={() => {
          setOpen(undefined);
          if (!window.location.pathname.endsWith("wiring")) light(undefined);
        }}
      />
      {stale && <StaleDialog />}
    </div>
  );
}
