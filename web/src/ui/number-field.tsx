import { useState } from "react";

/** A number with its unit. Typing changes it at once; what is no number in range is marked and not taken. */
export function NumberField({
  label,
  value,
  unit,
  min,
  max,
  step,
  placeholder = "any",
  onChange,
}: {
  label: string;
  value: number | null | undefined;
  unit: string;
  min: number;
  max: number;
  step: number;
  placeholder?: string;
  onChange: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? (value == null ? "" : String(value));
  const bad = text !== "" && !(Number(text) >= min && Number(text) <= max);
  return (
    <label className="inline-flex min-h-11 items-center gap-1 rounded-md border border-edge bg-ground px-2">
      <span className="sr-only">{label}</span>
      <input
        type="number"
        inputMode="decimal"
        value={text}
        min={min}
        max={max}
        step={step}
        placeholder={placeholder}
        aria-invalid={bad}
        title={bad ? `From ${min} to ${max} ${unit}` : undefined}
        className={`h-11 w-20 bg-transparent text-right tabular-nums placeholder:text-soft ${bad ? "text-bad" : ""}`}
        onChange={(event) => {
          const next = event.target.value;
          setTyped(next);
          if (next === "") onChange(null);
          else if (Number(next) >= min && Number(next) <= max) onChange(Number(next));
        }}
        onBlur={() => setTyped(undefined)}
      />
      {unit}
    </label>
  );
}
