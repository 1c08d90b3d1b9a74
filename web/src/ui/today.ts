/** Today by the clock of this machine, as 2026-05-04. */
export function today(): string {
  const now = new Date();
  const two = (part: number) => String(part).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
