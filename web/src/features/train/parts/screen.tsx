import { useState } from "react";

import type { ExerciseLine } from "../model";
import { Begin } from "./begin";
import { Working } from "./working";

/** Train: something hidden is wrong; it is looked for, mended, and shown beside the finder's own way. */
export function TrainScreen() {
  const [exercise, setExercise] = useState<ExerciseLine>();
  if (!exercise) return <Begin onBegun={setExercise} />;
  return <Working key={exercise.id} exercise={exercise} onLeave={() => setExercise(undefined)} />;
}
