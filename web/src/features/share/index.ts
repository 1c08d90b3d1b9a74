export { JoinScreen } from "./parts/join";
export { ShareScreen } from "./parts/screen";
