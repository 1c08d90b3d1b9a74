/** How far something is, in our colours; without an end in sight it goes to and fro. */
export function ProgressBar({ label, done, of, className = "" }: { label: string; done?: number; of?: number | null; className?: string }) {
  const share = of ? Math.min(1, (done ?? 0) / of) : undefined;
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={of ?? undefined}
      aria-valuenow={of ? (done ?? 0) : undefined}
      className={`h-3 overflow-hidden rounded-full border border-edge bg-ground ${className}`}
    >
      <div
        className={`h-full rounded-full bg-lead ${share === undefined ? "w-1/3 animate-[to-and-fro_1.6s_ease-in-out_infinite_alternate]" : ""}`}
        style={share === undefined ? undefined : { width: `${share * 100}%` }}
      />
    </div>
  );
}
