import { useEffect } from "react";
import { useNavigate, useSearchParams } from "react-router";

import { Button } from "../../ui";
import { useDraft } from "../use-draft";
import { usePanel } from "../use-panel";
import { useStates } from "../use-states";

type Stop = { path: string; says: string; opens?: "worst" };

/** The demo in six taps: what each part is for, where it stands, and what it says of this very rig. */
const STOPS: Stop[] = [
  {
    path: "case",
    says: "At the left stands who was promised what, always in sight. Here lies what the crew has: devices as found, and cables. Take a cable out with − and see which promise breaks.",
  },
  {
    path: "case",
    opens: "worst",
    says: "This promise cannot be kept. The panel says why, and what it would take: tap it to plan with that.",
  },
  {
    path: "wiring",
    says: "Which cable in which port: lanes are the stages of the gimbal, flags are the tape on the cable. Tap a line to ask why, a device to say how it lies there.",
  },
  { path: "other-ways", says: "Other wirings that keep as much, with what each costs. One tap takes one." },
  { path: "run-sheet", says: "Every step in an order in which it can be done and stays done, with what to see after it. Tick as you go." },
  {
    path: "bench",
    says: "The same sheet carried out on simulated devices. Do all, and every promise is proven or fails before anybody stands in the rain.",
  },
];

/** Stands at the foot of the screen while somebody is shown around; left at any time. */
export function Tour() {
  const [search, setSearch] = useSearchParams();
  const { rig } = useDraft();
  const states = useStates();
  const { show, close } = usePanel();
  const go = useNavigate();
  const at = Number(search.get("tour"));
  const stop = STOPS[at - 1];
  const worst = rig.promises.find((one) => states[one.id] === "impossible")?.id;
  const opens = stop?.opens === "worst" ? worst : undefined;
  useEffect(() => {
    if (opens) show({ kind: "promise", id: opens });
  }, [opens, show]);
  if (!stop) return null;
  const leave = () => setSearch({});
  const next = () => {
    close();
    const following = STOPS[at];
    if (following) void go(`/rigs/${rig.id}/${following.path}?tour=${at + 1}`);
    else leave();
  };
  return (
    <aside aria-label="Tour" className="z-30 flex flex-wrap items-center gap-3 border-t-4 border-lead bg-raised px-4 py-2">
      <b className="tabular-nums">
        {at} of {STOPS.length}
      </b>
      <p className="min-w-60 flex-1 leading-snug">{stop.says}</p>
      <Button weight="lead" onClick={next}>
        {at < STOPS.length ? "Next" : "Done"}
      </Button>
      <Button weight="quiet" onClick={leave}>
        Leave
      </Button>
    </aside>
  );
}
