"use client";
/** Every command by its name, and the list of keys. */
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
} from "@headlessui/react";
import { useState } from "react";
import { Modal } from "../kit";
import { useSession } from "../state";
import { COMMANDS, shownKeys, type Command } from "./commands";
import { commandsNow, found } from "./search";

const close = () => useSession.setState({ dialog: null });

function Keys({ keys }: { keys: string }) {
  return <kbd className={KEY}>{shownKeys(keys)}</kbd>;
}

const KEY =
  "whitespace-nowrap rounded-md border border-linen-3 bg-linen-0 px-1.5 py-0.5 font-mono text-[11px] text-ink-6";

export function Palette() {
  const [query, setQuery] = useState("");
  const [commands] = useState(() =>
    commandsNow().filter(({ id, possible }) => id !== "palette" && id !== "escape" && (possible?.() ?? true)),
  );
  const shown = found(commands, query).filter(({ deep }) => !deep || query.trim() !== "");
  const run = (command: Command | null) => {
    close();
    // After the dialog has given the focus back.
    if (command) setTimeout(command.run, 0);
  };
  return (
    <Dialog open onClose={close} aria-label="Find a command" className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink-9/25" />
      <div className="fixed inset-0 flex justify-center p-6 pt-24">
        <DialogPanel className="h-fit w-[460px] overflow-hidden rounded-[10px] border border-linen-2 bg-linen-0 shadow-float">
          <Combobox<Command | null> immediate value={null} onChange={run}>
            <ComboboxInput
              autoFocus
              aria-label="Find a command"
              placeholder="Find a command"
              value={query}
              onChange={(event) => setQuery(event.target.value)}
              className="w-full border-b border-linen-2 bg-transparent px-4 py-3 text-[15px] focus:outline-none"
            />
            <ComboboxOptions static className="max-h-80 overflow-auto p-1.5">
              {shown.length === 0 && <p className="px-3 py-2 text-ink-6">Nothing is called that, or good for it.</p>}
              {shown.map((command) => (
                <ComboboxOption
                  key={command.id}
                  value={command}
                  className="flex cursor-pointer items-center gap-3 rounded-lg px-3 py-1.5 data-focus:bg-sea-soft"
                >
                  <span className="grow">{command.name}</span>
                  {command.keys && <Keys keys={command.keys} />}
                </ComboboxOption>
              ))}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

/** What hands and keys do where no command is: by place. */
const ELSEWHERE: Readonly<Record<string, readonly [keys: string, what: string][]>> = {
  See: [
    ["Drag", "turn about · right button or Ctrl: move · wheel: nearer and farther"],
    ["Arrows", "with the view in focus: turn about · Page Up and Down: nearer and farther"],
  ],
  "Select and change": [
    ["Shift drag", "select with a box · Shift click: one more or less"],
    ["Drag", "a knot on its level · Shift: up and down · Alt: on the ground"],
    ["E N U", "while something moves: east and west, north and south, up and down alone"],
    ["M 1.5", "while something moves: just so far · Ctrl: catch on nothing · Esc: back"],
    ["Arrows", "with the view in focus: move selected knots, or the surface that is being moved"],
  ],
  Draw: [
    ["Click", "next knot · Enter or double click: done · Backspace: take back · Esc: give up"],
    ["Arrows", "move the cursor by 10 cm · Shift: 1 m · Alt: 1 cm · Page Up and Down: up and down"],
    ["Enter", "with the cursor: set a knot · once more in the same place: done"],
    ["3; −2", "a knot at x 3 and z −2 on the ground · three numbers: x, y and z"],
    ["M 1.5", "the next knot so far from the last one"],
  ],
  Strip: [
    ["← →", "select the neighbour · Alt: move by 1 cm · Alt Shift: by 10 cm"],
    ["Drag", "a prop: peg · with Alt: copy · beside props: hold a stretch open · Shift: select"],
    ["G", "hold a stretch open where the selection is · Delete: close the chosen one"],
    ["Wheel", "zoom · Shift: along the line"],
  ],
  Fields: [
    ["↑ ↓", "step · Shift: ten times · Alt: a tenth"],
    ["Enter", "take what is typed and leave the field"],
  ],
};

const GROUPS = ["Scene", "See", "Draw", "Select and change", "Strip", "Fields"];

export function KeysDialog() {
  return (
    <Modal title="Keys" onClose={close} width="w-[860px]">
      {/* With the focus here, arrows scroll what is longer than the screen. */}
      <div tabIndex={0} role="group" aria-label="All keys" className="columns-2 gap-8">
        {GROUPS.map((group) => (
          <section key={group} aria-label={group} className="mb-4 break-inside-avoid">
            <h3 className="mb-1.5 text-xs font-semibold">{group}</h3>
            <dl className="grid grid-cols-[96px_1fr] gap-x-3 gap-y-1 text-[12.5px]">
              {COMMANDS.map(
                ({ id, name, keys, group: own = "Select and change" }) =>
                  keys &&
                  own === group && (
                    <div key={id} className="contents">
                      <dt className="text-right">
                        <Keys keys={keys} />
                      </dt>
                      <dd>{name}</dd>
                    </div>
                  ),
              )}
              {(ELSEWHERE[group] ?? []).map(([keys, what]) => (
                <div key={keys + what} className="contents">
                  <dt className="text-right">
                    <kbd className={KEY}>{keys}</kbd>
                  </dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Modal>
  );
}
