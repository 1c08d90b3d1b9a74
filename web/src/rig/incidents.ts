import type { Schemas } from "../api/client";

export type Incident = Schemas["RigAndWhat"]["what"];
export type Noted = Schemas["MayHappen"]["what"][number];

/** What somebody asks before it is done to a device, and what is said once it was. What happens to joins has its words beside the join. */
export const ASKED: Record<Exclude<Incident, "pulled">, string> = {
  "switched-off": "If I switch it off",
  restarted: "If I restart it",
  "battery-changed": "If I change its battery",
};
export const SAID: Record<Noted, string> = { restarted: "Restarted", "battery-changed": "Battery changed" };
