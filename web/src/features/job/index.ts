export { JobScreen } from "./parts/screen";
export { RotaScreen } from "./parts/rota-screen";
