export { ClockScreen } from "./parts/clock";
export { ProveScreen } from "./parts/screen";
