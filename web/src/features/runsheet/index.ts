export { RunSheetScreen } from "./parts/screen";
