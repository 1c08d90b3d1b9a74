import type { Refusal } from "../../api/client";

/** A refusal, with every problem at its place. */
export function Problems({ refusal }: { refusal: Refusal | undefined }) {
  if (!refusal) return null;
  const { message, hint, problems = [] } = refusal.answer;
  const isRefused = refusal.status >= 400 && refusal.status < 500;
  return (
    <div role="alert" className="mt-4 rounded-md border-l-8 border-bad bg-raised p-4">
      <p className="font-semibold">
        {problems.length > 1 ? `Refused: ${problems.length} problems. Nothing was changed.` : `${isRefused ? "Refused. " : ""}${message}`}
      </p>
      {hint && <p>{hint}</p>}
      <ul className="mt-2 space-y-2">
        {problems.map((problem, number) => (
          <li key={number}>
            {problem.line != null && <b>Line {problem.line} </b>}
            {problem.path && <code className="rounded bg-panel px-1">{problem.path}</code>} {problem.message} {problem.hint}
          </li>
        ))}
      </ul>
    </div>
  );
}
