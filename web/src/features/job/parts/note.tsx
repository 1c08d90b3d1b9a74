import { useState } from "react";

import { Panel, TextArea, TextField } from "../../../ui";

/** Words that are kept once they are typed whole. */
function useTyped(value: string | null | undefined, onChange: (words: string | null) => void) {
  const [typed, setTyped] = useState<string>();
  const done = () => {
    const words = typed?.trim();
    if (words !== undefined && words !== (value ?? "")) onChange(words || null);
    setTyped(undefined);
  };
  return { value: typed ?? value ?? "", setTyped, done };
}

type Props = { label: string; placeholder: string; value: string | null | undefined; onChange: (words: string | null) => void };

/** A line of what one has to know. */
export function NoteLine({ label, placeholder, value, onChange }: Props) {
  const typed = useTyped(value, onChange);
  return (
    <TextField
      label={label}
      placeholder={placeholder}
      value={typed.value}
      className="min-w-full flex-1"
      onChange={typed.setTyped}
      onBlur={typed.done}
    />
  );
}

/** Several lines of it, in a panel of their own. */
export function NotePanel({ label, placeholder, value, onChange }: Props) {
  const typed = useTyped(value, onChange);
  return (
    <Panel title="Note">
      <TextArea
        aria-label={label}
        placeholder={placeholder}
        rows={3}
        maxLength={400}
        value={typed.value}
        onChange={(event) => typed.setTyped(event.target.value)}
        onBlur={typed.done}
      />
    </Panel>
  );
}
