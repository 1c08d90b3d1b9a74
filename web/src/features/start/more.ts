export { BinScreen } from "./parts/bin";
export { NewRigScreen } from "./parts/new-rig";
