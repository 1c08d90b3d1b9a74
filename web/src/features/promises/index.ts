export { PromisesScreen } from "./parts/screen";
