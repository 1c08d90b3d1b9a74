export { KitScreen } from "./parts/screen";
