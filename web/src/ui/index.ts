export { Button } from "./button";
export { Choose, type Choice } from "./choose";
export { Dialog } from "./dialog";
export { useKeepInView } from "./keep-in-view";
export { pressed, useShortcuts, type Shortcut } from "./keys";
export { NumberField } from "./number-field";
export { matching, Palette, type Command } from "./palette";
export { Empty, familyToken, Flag, Key, Panel } from "./parts";
export { useTheme } from "./theme";
