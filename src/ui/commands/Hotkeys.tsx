"use client";
/** The keys of all commands, as long as no dialog is open and nobody is typing. */
import { useHotkeys } from "react-hotkeys-hook";
import { useSession } from "../state";
import { COMMANDS, type Command } from "./commands";

export function Hotkeys() {
  const dialog = useSession((session) => session.dialog);
  return COMMANDS.map(
    (command) => command.keys && <Hotkey key={command.id} command={command} enabled={dialog === null} />,
  );
}

/** Inside a text field only these commands have keys; all others are left to the field. */
const IN_FIELDS: ReadonlySet<string> = new Set(["save", "palette", "export", "undo", "redo", "escape"]);

/** Of those, these are about the field's own text as long as that is being typed. */
const ABOUT_TEXT: ReadonlySet<string> = new Set(["undo", "redo", "escape"]);

const typing = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLInputElement && event.target.dataset.typing !== "false";

/** Controls without text of their own, which react-hotkeys-hook would leave alone like text fields. */
const TEXTLESS = ["slider", "radio"] as const;

/** Commands whose key does something of its own on buttons and the like, to which it is left there. */
const NOT_ON_CONTROLS: ReadonlySet<string> = new Set(["play", "open-assembly"]);
const CONTROLS = "button, a, input, summary, [role=switch], [role=radio], [role=option], [role=menuitem]";

const onControl = ({ target }: KeyboardEvent): boolean =>
  target instanceof Element && target.closest(CONTROLS) !== null;

function Hotkey({ command, enabled }: { command: Command; enabled: boolean }) {
  useHotkeys(
    command.keys!,
    (event) => {
      if (command.possible && !command.possible()) return;
      event.preventDefault();
      command.run();
    },
    {
      enabled,
      enableOnFormTags: IN_FIELDS.has(command.id) ? ["input", ...TEXTLESS] : TEXTLESS,
      ignoreEventWhen: (event) =>
        (ABOUT_TEXT.has(command.id) && typing(event)) || (NOT_ON_CONTROLS.has(command.id) && onControl(event)),
      useKey: false,
    },
  );
  return null;
}
