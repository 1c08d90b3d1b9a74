export { WiringScreen } from "./parts/screen";
