import type { Role } from "./queries";

/** What each role may do, in the order in which they are offered: most people carry the run sheet out. */
export const ROLES: { role: Role; name: string; may: string }[] = [
  { role: "tick", name: "Crew", may: "ticks the run sheet, proves, writes notes" },
  { role: "edit", name: "Planner", may: "changes rigs and kits as well" },
  { role: "look", name: "Guest", may: "looks on, changes nothing" },
];

export const roleName = (role: Role) => ROLES.find((one) => one.role === role)?.name ?? role;

/** A code as it is read out: in two halves. */
export const spelt = (code: string) => `${code.slice(0, 4)} ${code.slice(4)}`;

/** The code in an address that was opened from a drawn code; nothing where there is none. */
export const codeIn = (search: string) => new URLSearchParams(search).get("code") ?? "";
