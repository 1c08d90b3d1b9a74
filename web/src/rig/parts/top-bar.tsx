import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";

import { Button, Key, Palette, useShortcuts, useTheme, type Command, type Shortcut } from "../../ui";
import { History, SaveState } from "../../keeping";
import { rigsQuery } from "../queries";
import type { Screen } from "../screens";
import { useDraft } from "../use-draft";
import { ComparedRigs, LastProven } from "./compared";
import { PromiseCount } from "./count";
import { KeySheet } from "./key-sheet";

type Dialog = "palette" | "keys" | "history";

/** The rigs of the day, undo and redo, and every command by its key or its name. */
export function TopBar({ screens }: { screens: Screen[] }) {
  const { saved, rig, undo, redo, draft, sync } = useDraft();
  const [theme, turn] = useTheme();
  const [dialog, setDialog] = useState<Dialog>();
  const [shortcuts, commands] = useCommands(screens, setDialog);
  return (
    <header className="flex items-center gap-2 border-b border-edge bg-panel px-3 py-1">
      <Link
        to="/"
        aria-label="Isotact, to the rigs of the day"
        className="flex min-h-11 items-center pr-2 text-xl font-bold tracking-tight max-sm:hidden"
      >
        Isotact
      </Link>
      <RigsOfTheJob />
      <h1 className="min-w-0 truncate px-1 text-lg font-semibold max-md:hidden">{rig.name}</h1>
      <div className="mr-auto">
        <PromiseCount />
      </div>
      <SaveState draft={draft} sync={sync} what={rig.name} />
      <Button weight="quiet" disabled={!saved.can_undo} onClick={undo} className="max-sm:hidden">
        Undo
      </Button>
      <Button weight="quiet" disabled={!saved.can_redo} onClick={redo} className="max-sm:hidden">
        Redo
      </Button>
      <Button weight="quiet" onClick={turn} className="max-sm:hidden">
        {theme === "night" ? "Day" : "Night"}
      </Button>
      <Button onClick={() => setDialog("palette")}>
        <span aria-hidden className="sm:hidden">
          ⋯
        </span>
        <span className="max-sm:sr-only">Commands</span>
        <span className="whitespace-nowrap max-xl:hidden">
          <Key>Ctrl K</Key>
        </span>
      </Button>
      <Palette open={dialog === "palette"} onClose={() => setDialog(undefined)} commands={commands} />
      <History
        open={dialog === "history"}
        onClose={() => setDialog(undefined)}
        draft={draft}
        sync={sync}
        what={rig.name}
        compare={(then, now, named) => <ComparedRigs then={then} now={now} named={named} />}
        above={(ask) => <LastProven rig={rig.id} onAsk={ask} />}
      />
      <KeySheet open={dialog === "keys"} onClose={() => setDialog(undefined)} shortcuts={shortcuts} />
    </header>
  );
}

/** What can be done from any screen of a rig: by a key, and by its name. */
function useCommands(screens: Screen[], open: (dialog: Dialog) => void): [Shortcut[], Command[]] {
  const { rig, undo, redo } = useDraft();
  const { data: rigs } = useQuery(rigsQuery);
  const [, turn] = useTheme();
  const go = useNavigate();
  const shortcuts = useMemo<Shortcut[]>(
    () => [
      ...screens.map((screen) => ({
        keys: screen.key,
        does: `Go to ${screen.name}`,
        run: () => void go(`/rigs/${rig.id}/${screen.path}`),
      })),
      { keys: "ctrl+z", does: "Undo", run: undo },
      { keys: "ctrl+shift+z", does: "Redo", run: redo },
      { keys: "ctrl+k", does: "Open the commands", run: () => open("palette") },
      { keys: "t", does: "Night or day colours", run: turn },
      { keys: "?", does: "Show these keys", run: () => open("keys") },
    ],
    [go, open, redo, rig.id, screens, turn, undo],
  );
  useShortcuts(shortcuts);
  const commands: Command[] = [
    ...shortcuts.map((one) => ({ id: one.keys, name: one.does, keys: one.keys, run: one.run })),
    { id: "history", name: "History: bring an earlier revision back", run: () => open("history") },
    { id: "document", name: "Save the rig document as a file", run: () => window.open(`/api/rigs/${rig.id}/document`) },
    { id: "new", name: "New rig", run: () => void go("/new") },
    { id: "copy", name: `Copy ${rig.name}`, run: () => void go(`/new?copy=${rig.id}`) },
    { id: "bin", name: "To the bin", run: () => void go("/bin") },
    { id: "rigs", name: "To the rigs of the day", run: () => void go("/") },
    { id: "kit", name: "To the kit", run: () => void go("/kit") },
    { id: "workshop", name: "To the workshop", run: () => void go("/workshop") },
    ...(rigs ?? []).map((other) => ({
      id: `rig-${other.document.id}`,
      name: `Open ${other.document.name}`,
      run: () => void go(`/rigs/${other.document.id}`),
    })),
  ];
  return [shortcuts, commands];
}

function RigsOfTheJob() {
  const { rig } = useDraft();
  const { data: rigs } = useQuery(rigsQuery);
  const ofTheJob = (rigs ?? []).filter(({ document: other }) => (other.production ?? "") === (rig.production ?? ""));
  return (
    <nav aria-label="Rigs of the job" className="flex max-w-[45vw] shrink-0 gap-1 overflow-x-auto">
      {ofTheJob.map(({ document: other }) => (
        <Link
          key={other.id}
          to={`/rigs/${other.id}`}
          title={other.name}
          aria-label={other.name}
          className={`flex min-h-11 min-w-11 shrink-0 items-center justify-center rounded-md border-2 text-lg font-bold ${other.id === rig.id ? "border-lead bg-lead text-on-lead" : "border-edge"}`}
        >
          {other.camera}
        </Link>
      ))}
    </nav>
  );
}
