export { MatrixScreen } from "./parts/screen";
