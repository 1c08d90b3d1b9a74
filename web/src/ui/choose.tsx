import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";

export type Choice = { value: string; label: string; note?: string };

/** One of several, by tap or keys. `label` is read out and not drawn. */
export function Choose({
  label,
  value,
  choices,
  onChange,
  className = "",
}: {
  label: string;
  value: string;
  choices: Choice[];
  onChange: (value: string) => void;
  className?: string;
}) {
  const chosen = choices.find((choice) => choice.value === value);
  return (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton
        aria-label={`${label}: ${chosen?.label ?? value}`}
        className={`inline-flex min-h-11 items-center gap-1.5 rounded-md border border-edge bg-raised px-2.5 text-left ${className}`}
      >
        <span className="min-w-0 flex-1">{chosen?.label ?? value}</span>
        <span aria-hidden className="text-soft">
          ▾
        </span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        className="z-50 max-h-80 min-w-[var(--button-width)] overflow-auto rounded-md border border-edge bg-panel p-1 shadow-xl [--anchor-gap:4px]"
      >
        {choices.map((choice) => (
          <ListboxOption
            key={choice.value}
            value={choice.value}
            className="flex min-h-11 cursor-pointer items-center gap-3 rounded px-3 data-[focus]:bg-lead data-[focus]:text-on-lead data-[selected]:font-semibold"
          >
            <span>{choice.label}</span>
            {choice.note && <span className="text-sm opacity-90">{choice.note}</span>}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
