export { AlternativesScreen } from "./parts/screen";
