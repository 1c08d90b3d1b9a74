import { useState } from "react";

import { TextField } from "../../../ui";

/** A name that no other has: taken once it is typed whole, so that half a word never stands for another's. */
export function NameField({
  label,
  value,
  taken,
  onChange,
}: {
  label: string;
  value: string;
  taken: readonly string[];
  onChange: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const name = (typed ?? value).trim();
  const says = !name ? "Say what it is called." : name !== value && taken.includes(name) ? `There is ${name} already.` : undefined;
  const done = () => {
    if (!says && name !== value) onChange(name);
    setTyped(undefined);
  };
  return (
    <span className="min-w-28 flex-1">
      <TextField
        label={label}
        value={typed ?? value}
        maxLength={80}
        className="min-w-0"
        aria-invalid={says !== undefined}
        onChange={setTyped}
        onBlur={done}
        onKeyDown={(event) => event.key === "Enter" && done()}
      />
      {says && (
        <span role="status" className="text-warn">
          {says}
        </span>
      )}
    </span>
  );
}
