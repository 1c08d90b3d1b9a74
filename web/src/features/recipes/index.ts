export { RecipesScreen } from "./parts/screen";
