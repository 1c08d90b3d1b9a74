import { percent, saysOf, type Finding } from "../model";

/** What it could be, the likeliest first, and what is always left for what nobody thought of. */
export function Causes({ finding, finds }: { finding: Finding | undefined; finds: Record<string, number> }) {
  if (!finding) return <p className="text-soft">Nothing is told yet.</p>;
  const total = Object.values(finds).reduce((sum, one) => sum + one, 0);
  return (
    <ol aria-label="What it could be" className="space-y-2">
      {finding.causes
        .filter((cause) => cause.share >= 0.01)
        .map((cause) => {
          const before = cause.kinds.reduce((sum, kind) => sum + (finds[kind] ?? 0), 0);
          return (
            <li key={cause.ids.join()}>
              <Line says={saysOf(cause)} share={cause.share} />
              {before > 0 && (
                <p className="text-sm text-soft">
                  Such a thing: {before} of {total} finds here
                </p>
              )}
            </li>
          );
        })}
      <li>
        <Line says="something that is not in my list" share={finding.elsewhere} />
      </li>
    </ol>
  );
}

function Line({ says, share }: { says: string; share: number }) {
  return (
    <>
      <p className="flex items-baseline justify-between gap-3 leading-tight">
        <span className="first-letter:uppercase">{says}</span>
        <b className="shrink-0 tabular-nums">{percent(share)}</b>
      </p>
      <div aria-hidden className="mt-0.5 h-2 overflow-hidden rounded-full border border-edge bg-ground">
        <div className="h-full rounded-full bg-lead" style={{ width: `${share * 100}%` }} />
      </div>
    </>
  );
}
