export { CaseScreen } from "./parts/screen";
