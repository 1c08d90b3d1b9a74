export { FindScreen } from "./parts/screen";
