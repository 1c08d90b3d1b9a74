/** The step that proves a promise, as the run sheet names it. */
export const proveStep = (promise: string) => `prove:${promise}`;
