export { PartList } from "./part-list";
export type { PartItem } from "./model";
