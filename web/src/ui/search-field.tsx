/** A field whose words narrow a list while they are typed. */
export function SearchField({
  label,
  placeholder,
  value,
  onChange,
  className = "",
}: {
  label: string;
  placeholder: string;
  value: string;
  onChange: (words: string) => void;
  className?: string;
}) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={`min-h-11 rounded-md border border-edge bg-ground px-3 placeholder:text-soft ${className}`}
    />
  );
}
