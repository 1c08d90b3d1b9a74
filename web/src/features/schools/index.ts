export { SchoolsScreen } from "./parts/screen";
