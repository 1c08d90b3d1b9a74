import { Progress } from "../searching";
import { useAnswer } from "../use-answer";

/** What lies over the foot of a screen while a plan takes long: it can be stopped, and the best so far is shown. */
export function LongSearch() {
  const { isPlanning } = useAnswer();
  return (
    // Over the screen, at its foot: what is being worked at must not move while it is looked for.
    <div className="fixed right-3 bottom-20 left-3 z-20 md:bottom-3 md:left-[calc(20rem+0.75rem)]">
      <Progress name="plan" going={isPlanning} says="Looking for the best plan" stop="Stop, and show the best so far" />
    </div>
  );
}
