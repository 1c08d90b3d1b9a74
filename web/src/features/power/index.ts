export { PowerScreen } from "./parts/screen";
