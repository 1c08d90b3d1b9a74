import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";

import { Pictogram, useShortcuts } from "../../ui";
import { withDevice } from "../devices/model";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { sameAs, withPromises } from "./model";
import { suggestQuery, type FromShelf, type Suggestion } from "./queries";

/** The id of the field, so that a stage without promises can lead there. */
export const PROMISE_FIELD = "promise-field";

/** The line where somebody writes who needs what; what the words could mean in this rig stands above it. */
export function PromiseEntry() {
  const { rig, edit } = useDraft();
  const { show } = usePanel();
  const [text, setText] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const [inUse, setInUse] = useState(false);
  const last = rig.promises.at(-1)?.who ?? "";
  const client = useQueryClient();
  const query = suggestQuery(rig, text, last);
  const { data, isPlaceholderData } = useQuery({ ...query, enabled: inUse, placeholderData: keepPreviousData });
  useShortcuts(useMemo(() => [{ keys: "n", does: "Promise more", run: () => input.current?.focus() }], []));
  const choose = (chosen: Suggestion | FromShelf | null) => {
    if (!chosen) return;
    // What was written stays: with the device in the rig it can be promised.
    if ("profile" in chosen) edit((now) => withDevice(now, { profile: chosen.profile }));
    else void promise(chosen);
  };
  const promise = async (chosen: Suggestion) => {
    setText("");
    // Whoever types faster than the list follows means the words, not what the list showed for half of them.
    const isFirst = isPlaceholderData && chosen.says === data?.suggestions[0]?.says;
    const meant = isFirst ? (await client.fetchQuery(query)).suggestions[0] : chosen;
    const there = meant?.promised ? sameAs(rig, meant.promises[0]) : undefined;
    if (there) show({ kind: "promise", id: there.id });
    else if (meant) edit((now) => withPromises(now, meant.promises));
  };
  return (
    <Combobox<Suggestion | FromShelf | null> immediate value={null} onChange={choose} by={(one, other) => one?.says === other?.says}>
      <div className="border-t border-edge">
        <ComboboxInput
          ref={input}
          id={PROMISE_FIELD}
          aria-label="Promise"
          placeholder="Promise: who, what, where"
          value={text}
          autoComplete="off"
          maxLength={300}
          onFocus={() => setInUse(true)}
          onChange={(event) => setText(event.target.value)}
          className="h-[44px] w-full bg-ground px-4 placeholder:text-soft"
        />
      </div>
      <ComboboxOptions
        modal={false}
        anchor={{ to: "top start", gap: 6 }}
        className="z-40 w-[28rem] max-w-[calc(100vw-1rem)] rounded-md border border-edge bg-panel p-1 shadow-xl"
      >
        <p className="px-3 pt-1 text-sm text-soft">
          {data?.says ? data.says : `To ${data?.who ?? "…"}. Write it like “Director sees picture on phone under 100 ms”.`}
        </p>
        {(data?.take ?? []).map((one) => (
          <ComboboxOption
            key={one.profile}
            value={one}
            className="flex min-h-11 cursor-pointer items-center gap-2 rounded px-3 py-1 leading-tight data-[focus]:bg-lead data-[focus]:text-on-lead"
          >
            <Pictogram name="gather" /> {one.says}
          </ComboboxOption>
        ))}
        {data?.suggestions.map((one) => (
          <ComboboxOption
            key={one.says}
            value={one}
            className="flex min-h-11 cursor-pointer items-center gap-2 rounded px-3 py-1 leading-tight data-[focus]:bg-lead data-[focus]:text-on-lead"
          >
            <span className="min-w-0 flex-1">{one.says}</span>
            {one.promised && <span className="text-sm">promised already</span>}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
}
