export { deviceName, freeId, STATES, type PromiseState } from "./model";
export { Problems } from "./parts/problems";
export { RigShell } from "./parts/shell";
export { Start } from "./parts/start";
export { useWorkspace } from "./workspace";
export { catalogueQuery, kitsQuery, rigsQuery } from "./queries";
export { Page } from "./parts/page";
