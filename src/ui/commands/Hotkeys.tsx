"use client";
/** The keys of all commands, as long as no dialog is open and nobody is typing. */
import { useHotkeys } from "react-hotkeys-hook";
import { useSession } from "../state/session";
import { COMMANDS, type Command } from "./commands";

export function Hotkeys() {
  const dialog = useSession((session) => session.dialog);
  return COMMANDS.map(
    (command) => command.keys && <Hotkey key={command.id} command={command} enabled={dialog === null} />,
  );
}

/** Keys that mean something in a field too, and are then left to it. */
const inFields = (command: Command) => ["save", "palette", "export"].includes(command.id);

function Hotkey({ command, enabled }: { command: Command; enabled: boolean }) {
  useHotkeys(
    command.keys!,
    (event) => {
      if (command.possible && !command.possible()) return;
      event.preventDefault();
      command.run();
    },
    { enabled, enableOnFormTags: inFields(command) ? ["INPUT"] : false, useKey: false },
  );
  return null;
}
