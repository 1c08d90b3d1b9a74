export { WorkshopScreen } from "./parts/screen";
