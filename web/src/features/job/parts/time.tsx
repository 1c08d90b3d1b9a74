import { useState } from "react";

import { TextInput } from "../../../ui";
import { timeOf } from "../model";

/** A time of the day, as a call sheet has it. It is taken once it is one: `1830`, `18:30` and `18.30` all are. */
export function Time({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | null | undefined;
  onChange: (time: string | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const bad = typed !== undefined && typed !== "" && !timeOf(typed);
  return (
    <label className="block">
      <span className="block text-sm text-soft">{label}</span>
      <TextInput
        inputMode="numeric"
        placeholder="18:30"
        maxLength={5}
        aria-invalid={bad}
        title={bad ? "A time such as 18:30" : undefined}
        className={`w-24 tabular-nums ${bad ? "text-bad" : ""}`}
        value={typed ?? value ?? ""}
        onChange={(event) => {
          const words = event.target.value;
          setTyped(words);
          if (words === "") onChange(null);
          else if (timeOf(words)) onChange(timeOf(words)!);
        }}
        onBlur={() => setTyped(undefined)}
      />
    </label>
  );
}
