export { Desk, isUnsaved, type Keeper } from "./desk";
export { mayPass, retryAfter, stateOf, type Draft, type DraftEvent, type Move, type Saved, type State } from "./draft";
export { History } from "./history";
export { listen, useReached } from "./live";
export { SaveState } from "./save-state";
export { useAskBeforeClosing } from "./use-ask";
export { idsLeft } from "./unsaved";
export { useSketch } from "./use-sketch";
export { useDocument } from "./use-document";
