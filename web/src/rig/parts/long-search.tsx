import { Progress } from "../searching";
import { useAnswer } from "../use-answer";

/** What stands above a screen while a plan takes long: it can be stopped, and the best so far is shown. */
export function LongSearch() {
  const { isPlanning } = useAnswer();
  return <Progress name="plan" going={isPlanning} says="Looking for the best plan" stop="Stop, and show the best so far" />;
}
