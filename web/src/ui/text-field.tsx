import { useId, type ComponentProps } from "react";

type Input = ComponentProps<"input"> & {
  /** For a page that a phone shows to somebody in a hurry. */
  tall?: boolean;
};

/** A line of words, high enough for a glove. */
export function TextInput({ tall = false, className = "w-full", ...rest }: Input) {
  return (
    <input
      {...rest}
      className={`${tall ? "min-h-14" : "min-h-11"} rounded-md border border-edge bg-ground px-3 placeholder:text-soft ${className}`}
    />
  );
}

/** Several lines of words. */
export function TextArea({ className = "w-full", ...rest }: ComponentProps<"textarea">) {
  return <textarea {...rest} className={`rounded-md border border-edge bg-ground px-3 py-2 placeholder:text-soft ${className}`} />;
}

/** A line of words under its label; `known` are offered while it is typed. */
export function TextField({
  label,
  known = [],
  className = "min-w-48 flex-1",
  maxLength = 200,
  onChange,
  ...rest
}: Omit<Input, "onChange" | "className" | "list"> & {
  label: string;
  known?: readonly string[];
  className?: string;
  onChange: (words: string) => void;
}) {
  const list = useId();
  return (
    <label className={`block ${className}`}>
      <span className="block text-sm text-soft">{label}</span>
      <TextInput
        {...rest}
        maxLength={maxLength}
        list={known.length > 0 ? list : undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      {known.length > 0 && (
        <datalist id={list}>
          {known.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </label>
  );
}
