import { useMutation, useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { Link, Navigate, Outlet, useLocation, useParams } from "react-router";

import { Refusal, type Rig } from "../../api/client";
import { isBehind, listenToVault } from "../../keeping";
import { Button, useWide } from "../../ui";
import { AboutPanel } from "../devices/about-panel";
import { DevicePanel } from "../devices/panel";
import { ShelfPanel } from "../devices/shelf-panel";
import { PromiseColumn } from "../promises/column";
import { PromisePanel } from "../promises/panel";
import { historyPage, rigQuery, undoRig } from "../queries";
import type { Screen } from "../screens";
import { AnswerProvider, useAnswer } from "../use-answer";
import { DraftProvider, useDraft } from "../use-draft";
import { PanelProvider, usePanel } from "../use-panel";
import { BenchProvider } from "../use-bench";
import { DayProvider, useDay } from "../use-day";
import { LitProvider } from "../use-lit";
import { StatesProvider } from "../use-states";
import { FirstThings } from "./first-things";
import { LongSearch } from "./long-search";
import { Problems } from "./problems";
import { Stages } from "./stages";
import { Tour } from "./tour";
import { TopBar } from "./top-bar";

/** One rig: opens it and puts the screens of the job around it. */
export function RigShell({ screens }: { screens: Screen[] }) {
  const { rigId = "" } = useParams();
  const { data, error, refetch } = useQuery(rigQuery(rigId));
  const back = useMutation({
    mutationFn: async () => undoRig(rigId, (await historyPage(rigId, undefined))[0]?.number ?? 1),
    onSuccess: () => refetch(),
  });
  if (error) {
    return (
      <main className="mx-auto max-w-3xl p-6">
        <h1 className="text-2xl font-bold">This rig cannot be opened</h1>
        <Problems refusal={error instanceof Refusal ? error : undefined} />
        {error instanceof Refusal && error.answer.code === "unreadable" && (
          <Button weight="lead" className="mt-4 mr-4" onClick={() => back.mutate()}>
            Go back to the revision before
          </Button>
        )}
        {back.error && <Problems refusal={back.error instanceof Refusal ? back.error : undefined} />}
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
        <LitProvider>
          <DayProvider>
            <BenchProvider>
              <StatesProvider>
                <PanelProvider>
                  <Frame screens={screens} />
                </PanelProvider>
              </StatesProvider>
            </BenchProvider>
          </DayProvider>
        </LitProvider>
      </AnswerProvider>
    </DraftProvider>
  );
}

function Frame({ screens }: { screens: Screen[] }) {
  const { rig, refusal, draft } = useDraft();
  const { refusal: notPlanned } = useAnswer();
  const wide = useWide();
  const pathname = useLocation().pathname.replace(/\/$/, "");
  const home = pathname === `/rigs/${rig.id}`;
  const alone = home && !wide;
  const missing = missingFor(
    screens.find((one) => pathname === `/rigs/${rig.id}/${one.path}`),
    rig,
  );
  return (
    <div className="flex h-dvh flex-col">
      <TopBar screens={screens} />
      <div className="flex min-h-0 flex-1">
        <PromiseColumn alone={home} />
        <div className={`min-w-0 flex-1 flex-col ${home ? "hidden md:flex" : "flex"}`}>
          <div className="max-md:hidden">
            <Stages screens={screens} />
          </div>
          <div className="flex min-h-0 flex-1">
            {!alone && <Beside />}
            <main className="@container relative min-h-0 min-w-0 flex-1 overflow-auto p-3">
              <Problems refusal={notPlanned ?? (draft.phase === "still" ? refusal : undefined)} />
              <Ticks />
              <LongSearch />
              {missing ? <FirstThings missing={missing} /> : <Outlet />}
            </main>
          </div>
        </div>
        {alone && <Beside />}
      </div>
      <div className="md:hidden">
        <Stages screens={screens} />
      </div>
      <Tour />
    </div>
  );
}

/** What was done and did not arrive yet, and what was refused. */
function Ticks() {
  const { inLine, logRefusal } = useDay();
  const isBeingKept = useSyncExternalStore(listenToVault, isBehind);
  const one = inLine === 1;
  return (
    <>
      <Problems refusal={logRefusal} />
      {inLine > 0 && (
        <p role="status" className="mb-3 rounded-md border-l-8 border-warn bg-raised px-3 py-2 font-semibold text-warn">
          ▲ {one ? "One tick waits" : `${inLine} ticks wait`} in line:{" "}
          {isBeingKept
            ? "being put down in this browser. Leave it on."
            : one
              ? "it is kept in this browser, and goes to the cart by itself."
              : "they are kept in this browser, and go to the cart by themselves."}
        </p>
      )}
    </>
  );
}

/** What a stage would work on and the rig does not have yet: devices come before promises. */
function missingFor(screen: Screen | undefined, rig: Rig): Screen["needs"] {
  if (screen?.needs && rig.devices.length === 0) return "devices";
  return screen?.needs === "promises" && rig.promises.length === 0 ? "promises" : undefined;
}

/** What is open beside the column. */
function Beside() {
  const { opened } = usePanel();
  if (opened?.kind === "promise") return <PromisePanel key={opened.id} id={opened.id} />;
  if (opened?.kind === "device") return <DevicePanel key={opened.id} id={opened.id} />;
  if (opened?.kind === "about") return <AboutPanel />;
  return opened?.kind === "shelf" ? <ShelfPanel /> : null;
}

/** The first stage: on a phone the column of promises by itself; where there is room beside it, the first screen. */
export function FirstStage({ to }: { to: string }) {
  return useWide() ? <Navigate to={to} replace /> : null;
}
