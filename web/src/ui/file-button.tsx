import { useRef, type ReactNode } from "react";

import { Button } from "./button";

/** A button that asks for a file. The same file can be chosen again. */
export function FileButton({
  label,
  accept,
  weight = "plain",
  disabled = false,
  onChosen,
  children,
}: {
  label: string;
  accept: string;
  weight?: "lead" | "plain";
  disabled?: boolean;
  onChosen: (file: File) => void;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) onChosen(chosen);
          event.target.value = "";
        }}
      />
      <Button weight={weight} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
