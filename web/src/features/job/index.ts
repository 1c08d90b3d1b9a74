export { JobScreen } from "./parts/screen";
