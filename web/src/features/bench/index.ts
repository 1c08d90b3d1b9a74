export { BenchScreen } from "./parts/screen";
