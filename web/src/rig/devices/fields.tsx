import { useId, type ReactNode } from "react";
import { TextInput } from "../../ui";

/** A field under its label. */
export function Field({ label, children, wide = false }: { label: string; children: ReactNode; wide?: boolean }) {
  return (
    <div className={wide ? "col-span-2" : ""}>
      <span aria-hidden className="mb-0.5 block text-sm text-soft">
        {label}
      </span>
      {children}
    </div>
  );
}

/** A line of text; it takes when the field is left or with Enter, and an empty one means nothing known. */
export function Words(props: {
  label: string;
  value: string | null | undefined;
  placeholder: string;
  wide?: boolean;
  known?: readonly string[];
  wrong?: (text: string) => string;
  onTake: (text: string | null) => void;
}) {
  const { label, value, placeholder, wide, known = [], wrong, onTake } = props;
  const list = useId();
  return (
    <Field label={label} wide={wide ?? false}>
      <TextInput
        key={value}
        aria-label={label}
        defaultValue={value ?? ""}
        placeholder={placeholder}
        maxLength={400}
        list={list}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        onChange={(event) => event.currentTarget.setCustomValidity(wrong?.(event.target.value.trim()) ?? "")}
        onBlur={(event) => {
          const text = event.target.value.trim();
          if (!event.target.reportValidity()) event.target.value = value ?? "";
          else if (text !== (value ?? "")) onTake(text || null);
        }}
      />
      <datalist id={list}>
        {known.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </Field>
  );
}
