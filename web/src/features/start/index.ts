export { Start } from "./parts/screen";
