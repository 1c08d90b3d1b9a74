import { PICTOGRAMS, type PictogramName } from "./pictograms";

/** A pictogram beside its word. */
export function Pictogram({ name, size = 24, className = "" }: { name: PictogramName; size?: number; className?: string }) {
  return (
    <svg width={size} height={size} viewBox="-1 -1 26 26" aria-hidden className={`shrink-0 ${className}`}>
      <PictogramShape name={name} />
    </svg>
  );
}

/** The same within a drawing, on a square of 24. */
export function PictogramShape({ name }: { name: PictogramName }) {
  const [lines, filled] = PICTOGRAMS[name].split("|");
  return (
    <>
      <path d={lines} fill="none" stroke="currentColor" strokeWidth={2} strokeLinecap="round" strokeLinejoin="round" />
      {filled && <path d={filled} fill="currentColor" />}
    </>
  );
}
