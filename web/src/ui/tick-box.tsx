/** A box that is ticked, in our colours: as large as a gloved finger wants it. */
export function TickBox({
  checked,
  onChange,
  label,
  className = "size-11",
}: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  /** Where no label stands around it. */
  label?: string;
  className?: string;
}) {
  return (
    <span className={`relative inline-grid shrink-0 place-items-center ${className}`}>
      <input
        type="checkbox"
        aria-label={label}
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
        className="peer absolute inset-0 cursor-pointer appearance-none rounded-md border-2 border-edge bg-ground checked:border-lead checked:bg-lead"
      />
      <svg viewBox="0 0 24 24" aria-hidden className="pointer-events-none relative hidden size-3/5 text-on-lead peer-checked:block">
        <path d="M4 13l6 6L20 5" fill="none" stroke="currentColor" strokeWidth={3.5} strokeLinecap="round" strokeLinejoin="round" />
      </svg>
    </span>
  );
}
