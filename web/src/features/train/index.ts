export { TrainScreen } from "./parts/screen";
