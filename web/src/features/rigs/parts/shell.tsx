import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, NavLink, Outlet, useNavigate, useParams } from "react-router";

import { Refusal } from "../../../api/client";
import { Button, Dialog, Key, Palette, useShortcuts, useTheme, type Command, type Shortcut } from "../../../ui";
import { rigQuery, rigsQuery, stopSearch } from "../queries";
import { useWorkspace, WorkspaceProvider } from "../workspace";
import { PromiseDrawer } from "./drawer";
import { Problems } from "./problems";
import { PromiseStrip } from "./strip";

const SCREENS = [
  { path: "promises", name: "Promises", key: "1", small: true },
  { path: "functions", name: "Functions", key: "5", small: false },
  { path: "schools", name: "Schools", key: "6", small: false },
  { path: "wiring", name: "Wiring", key: "2", small: true },
  { path: "other-ways", name: "Other ways", key: "7", small: false },
  { path: "run-sheet", name: "Run sheet", key: "3", small: true },
  { path: "bench", name: "Bench", key: "4", small: true },
];

/** One rig: opens it and puts the screens of the job around it. */
export function RigShell() {
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
    <WorkspaceProvider key={rigId} first={data}>
      <Frame />
    </WorkspaceProvider>
  );
}

function Frame() {
  const { refusal, stale, light } = useWorkspace();
  const [open, setOpen] = useState<string>();
  return (
    <div className="flex h-screen flex-col">
      <TopBar />
      <PromiseStrip onOpen={setOpen} />
      <div className="flex min-h-0 flex-1 flex-col md:flex-row">
        <Rail />
        <main className="min-h-0 min-w-0 flex-1 overflow-auto p-3">
          {refusal && <Problems refusal={refusal} />}
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

const LONG_MS = 1500;

/** What stands above a screen while a plan takes long: it can be stopped, and the best so far is shown. */
function LongSearch() {
  const { isPlanning } = useWorkspace();
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setLong(isPlanning), isPlanning ? LONG_MS : 0);
    return () => window.clearTimeout(timer);
  }, [isPlanning]);
  if (!isPlanning || !isLong) return null;
  return (
    <div role="status" className="mb-3 flex items-center gap-4 rounded-md border border-lead bg-panel p-3">
      <progress className="h-3 flex-1" />
      <span>Looking for the best plan. What stands below is the last one.</span>
      <Button onClick={() => void stopSearch()}>Stop, and show the best so far</Button>
    </div>
  );
}

function TopBar() {
  const workspace = useWorkspace();
  const { saved, rig, undo, redo } = workspace;
  const { data: rigs } = useQuery(rigsQuery);
  const [theme, turn] = useTheme();
  const go = useNavigate();
  const [dialog, setDialog] = useState<"palette" | "keys">();
  const shortcuts = useMemo<Shortcut[]>(
    () => [
      ...SCREENS.map((screen) => ({
        keys: screen.key,
        does: `Go to ${screen.name}`,
        run: () => void go(`/rigs/${rig.id}/${screen.path}`),
      })),
      { keys: "ctrl+z", does: "Undo", run: undo },
      { keys: "ctrl+shift+z", does: "Redo", run: redo },
      { keys: "ctrl+k", does: "Open the commands", run: () => setDialog("palette") },
      { keys: "t", does: "Night or day colours", run: turn },
      { keys: "?", does: "Show these keys", run: () => setDialog("keys") },
    ],
    [go, redo, rig.id, turn, undo],
  );
  useShortcuts(shortcuts);
  const commands: Command[] = [
    ...shortcuts.map((one) => ({ id: one.keys, name: one.does, keys: one.keys, run: one.run })),
    { id: "document", name: "Save the rig document as a file", run: () => window.open(`/api/rigs/${rig.id}/document`) },
    { id: "rigs", name: "To the rigs of the day", run: () => void go("/") },
    { id: "kit", name: "To the kit", run: () => void go("/kit") },
    { id: "workshop", name: "To the workshop", run: () => void go("/workshop") },
    ...(rigs ?? []).map((other) => ({
      id: `rig-${other.document.id}`,
      name: `Open ${other.document.name}`,
      run: () => void go(`/rigs/${other.document.id}/promises`),
    })),
  ];
  return (
    <header className="flex flex-wrap items-center gap-2 border-b border-edge bg-panel px-3 py-2">
      <Link to="/" aria-label="Isotact, to the rigs of the day" className="flex min-h-11 items-center pr-2 text-xl font-bold tracking-tight">
        Isotact
      </Link>
      <nav aria-label="Rigs of the day" className="flex gap-1">
        {(rigs ?? []).map(({ document: other }) => (
          <NavLink
            key={other.id}
            to={`/rigs/${other.id}/promises`}
            title={other.name}
            aria-label={other.name}
            className={`flex min-h-11 min-w-11 items-center justify-center rounded-md border-2 text-lg font-bold ${other.id === rig.id ? "border-lead bg-lead text-on-lead" : "border-edge"}`}
          >
            {other.camera}
          </NavLink>
        ))}
      </nav>
      <h1 className="mr-auto truncate px-2 text-lg font-semibold max-sm:hidden">{rig.name}</h1>
      <Button weight="quiet" disabled={!saved.can_undo} onClick={undo} className="max-sm:hidden">
        Undo
      </Button>
      <Button weight="quiet" disabled={!saved.can_redo} onClick={redo} className="max-sm:hidden">
        Redo
      </Button>
      <Button weight="quiet" onClick={turn} className="max-sm:hidden">
        {theme === "night" ? "Day" : "Night"}
      </Button>
      <Button onClick={() => setDialog("palette")} className="max-sm:ml-auto">
        Commands <span className="max-sm:hidden"><Key>Ctrl K</Key></span>
      </Button>
      <Palette open={dialog === "palette"} onClose={() => setDialog(undefined)} commands={commands} />
      <KeySheet open={dialog === "keys"} onClose={() => setDialog(undefined)} shortcuts={shortcuts} />
    </header>
  );
}

const ELSEWHERE: [string, string][] = [
  ["j / k", "Run sheet: next step, step before"],
  ["space", "Run sheet: tick. Bench: do one step"],
  ["a", "Bench: do all"],
  ["r", "Bench: start over"],
  ["n", "Promises: promise something more"],
];

function KeySheet({ open, onClose, shortcuts }: { open: boolean; onClose: () => void; shortcuts: Shortcut[] }) {
  const lines: [string, string][] = [...shortcuts.map((one): [string, string] => [one.keys, one.does]), ...ELSEWHERE];
  return (
    <Dialog open={open} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] items-center gap-x-6 gap-y-3">
        {lines.map(([keys, does]) => (
          <div key={keys} className="contents">
            <dt>
              <Key>{keys}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}

function Rail() {
  const { rig, answer, ticks, playback, states, isPlanning } = useWorkspace();
  const joins = answer?.plan.joins.filter((join) => join.link.kind === "cable").length;
  const steps = answer?.sheet.steps ?? [];
  const proven = Object.values(states).filter((state) => state === "proven").length;
  const told: Record<string, string> = {
    promises: answer ? `${answer.plan.routes.length} of ${rig.promises.length} hold` : "not planned",
    wiring: joins === undefined ? "not planned" : `${joins} cables`,
    functions: "what, from where",
    schools: "where crews differ",
    "other-ways": (rig.pins ?? []).length > 0 ? `${(rig.pins ?? []).length} pinned` : "compared",
    "run-sheet": `${steps.filter((step) => step.id in ticks).length} of ${steps.length} done`,
    bench: playback ? `${proven} proven` : "not run",
  };
  return (
    <nav
      aria-label="Stages"
      className="flex shrink-0 gap-1 border-edge bg-panel p-2 max-md:order-last max-md:border-t md:w-40 md:flex-col md:border-r"
    >
      {SCREENS.map((screen) => (
        <NavLink
          key={screen.path}
          to={`/rigs/${rig.id}/${screen.path}`}
          className={({ isActive }) =>
            `flex min-h-14 flex-1 flex-col justify-center rounded-md px-3 leading-tight md:flex-none ${screen.small ? "" : "max-md:hidden"} ${isActive ? "bg-raised shadow-[inset_6px_0_0_var(--lead)]" : "hover:bg-raised"}`
          }
        >
          <span className="font-semibold">{screen.name}</span>
          <span className="text-sm text-soft max-sm:hidden">{told[screen.path]}</span>
        </NavLink>
      ))}
      <p role="status" className="mt-auto px-3 py-2 text-sm text-soft max-md:hidden">
        {isPlanning ? "Planning." : answer?.plan.status === "proven-optimal" ? "Best plan, proven." : answer ? "Best so far." : ""}
      </p>
    </nav>
  );
}

function StaleDialog() {
  const { stale, settleStale } = useWorkspace();
  if (!stale) return null;
  const theirs = stale.theirs as { promises?: unknown[]; devices?: unknown[] };
  return (
    <Dialog open onClose={() => settleStale("theirs")} title="Somebody else changed this rig">
      <p>{stale.message}</p>
      <p className="mt-2">
        Theirs has {theirs.devices?.length ?? 0} devices and {theirs.promises?.length ?? 0} promises. Neither version is
        lost: the other stays in the history.
      </p>
      <div className="mt-4 flex gap-3">
        <Button weight="lead" onClick={() => settleStale("mine")}>
          Save mine on top
        </Button>
        <Button onClick={() => settleStale("theirs")}>Take theirs</Button>
      </div>
    </Dialog>
  );
}
