import { useQuery } from "@tanstack/react-query";

import { meQuery } from "./queries";

/** Who is at this screen, and what they may do: at the laptop itself everything. */
export function useMe() {
  const { data } = useQuery(meQuery);
  const role = data ? data.role : "edit";
  return { me: data, mayTick: role === "tick" || role === "edit", mayEdit: role === "edit" };
}
