export { BalanceScreen } from "./parts/screen";
