import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions, Dialog, DialogBackdrop, DialogPanel } from "@headlessui/react";
import { useState } from "react";

import { bears } from "./bears";
import { Key } from "./parts";

export type Command = { id: string; name: string; keys?: string; run: () => void };

/** Every command by its name. Opened with Ctrl K. */
export function Palette({ open, onClose, commands }: { open: boolean; onClose: () => void; commands: Command[] }) {
  const [words, setWords] = useState("");
  const found = matching(commands, words);
  const close = () => {
    setWords("");
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} aria-label="Commands" className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ground/75" />
      <div className="fixed inset-0 flex items-start justify-center p-4 pt-20">
        <DialogPanel className="w-full max-w-xl overflow-hidden rounded-lg border border-edge bg-panel">
          <Combobox<Command>
            onChange={(command) => {
              close();
              command?.run();
            }}
          >
            <ComboboxInput
              autoFocus
              aria-label="Command"
              placeholder="What do you want to do?"
              className="min-h-14 w-full bg-panel px-4 text-lg placeholder:text-soft"
              onChange={(event) => setWords(event.target.value)}
            />
            <ComboboxOptions static className="max-h-96 overflow-auto border-t border-edge p-1">
              {found.map((command) => (
                <ComboboxOption
                  key={command.id}
                  value={command}
                  className="flex min-h-12 cursor-pointer items-center justify-between gap-3 rounded px-3 data-[focus]:bg-raised"
                >
                  <span>{command.name}</span>
                  {command.keys && <Key>{command.keys}</Key>}
                </ComboboxOption>
              ))}
              {found.length === 0 && <p className="px-3 py-4 text-soft">No command has that name.</p>}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

/** The commands whose name holds every word that was typed. */
export function matching(commands: Command[], words: string): Command[] {
  const fits = bears(words);
  return commands.filter((command) => fits(command.name));
}
