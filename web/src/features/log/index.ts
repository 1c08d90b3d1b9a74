export { LogScreen } from "./parts/screen";
