import { Photos, type ProofByHand } from "../../../rig";

const MARKS = { holds: ["✔", "text-good"], fails: ["✕", "text-bad"], open: ["?", "text-warn"], missing: ["–", "text-soft"] } as const;
const SAYS = { holds: "", fails: "outside its limit", open: "cannot be told: the limit lies within the uncertainty", missing: "" } as const;

/** What was seen of it before: by whom and when, what was read, and what spoilt it since. */
export function Known({ proof }: { proof: ProofByHand | undefined }) {
  if (!proof) return null;
  const { outcome, judged = [], lapsed = [], missing = [], photos = [] } = proof;
  return (
    <div
      className={`rounded-md border-l-8 bg-raised px-3 py-2 leading-snug ${outcome === "proven" && lapsed.length === 0 ? "border-good" : "border-warn"}`}
    >
      <p className="font-semibold">
        {outcome === "failed"
          ? "It did not work"
          : outcome === "spoilt"
            ? "It has to be proven again"
            : lapsed.length
              ? "It was proven, and holds no longer"
              : "Proven by hand"}
        <span className="font-normal text-soft">
          {" "}
          {[
            proof.person,
            new Date(proof.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false }),
            `revision ${proof.revision}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </span>
      </p>
      {proof.reason && !lapsed.includes(proof.reason) && <p>{proof.reason}</p>}
      <ul>
        {judged
          .filter((one) => one.ask.unit || one.verdict === "fails")
          .map((one) => (
            <li key={one.ask.id}>
              <b className={MARKS[one.verdict][1]}>{MARKS[one.verdict][0]}</b> {one.ask.says} <b className="tabular-nums">{one.read}</b>{" "}
              {one.ask.unit && SAYS[one.verdict]}
            </li>
          ))}
        {lapsed.slice(0, 4).map((says) => (
          <li key={says}>↻ {says}</li>
        ))}
        {outcome === "proven" && missing.length > 0 && <li className="text-soft">Not looked at: {missing.join(" ")}</li>}
      </ul>
      {photos.length > 0 && (
        <div className="mt-2 flex gap-2">
          <Photos photos={photos} />
        </div>
      )}
    </div>
  );
}
