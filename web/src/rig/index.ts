export { deviceName, freeId, STATES, type PromiseState } from "./model";
export { Page } from "./parts/page";
export { Problems } from "./parts/problems";
export { RigShell } from "./parts/shell";
export { catalogueQuery, kitsQuery, rigsQuery } from "./queries";
export type { Screen } from "./screens";
export { useAnswer } from "./use-answer";
export { useDraft } from "./use-draft";
export { useRun } from "./use-run";
