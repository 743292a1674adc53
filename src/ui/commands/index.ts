/** Every command, by its name, its key and in the palette. */
export { Hotkeys } from "./Hotkeys";
export { KeysDialog, Palette } from "./Palette";
