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

const close = () => useSession.setState({ dialog: null });

function Keys({ keys }: { keys: string }) {
  return (
    <kbd className="whitespace-nowrap rounded-md border border-linen-3 bg-linen-0 px-1.5 py-0.5 font-mono text-[11px] text-ink-6">
      {shownKeys(keys)}
    </kbd>
  );
}

export function Palette() {
  const [query, setQuery] = useState("");
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const found = COMMANDS.filter(
    ({ id, name, possible }) =>
      id !== "palette" &&
      id !== "escape" &&
      (possible?.() ?? true) &&
      words.every((word) => name.toLowerCase().includes(word)),
  );
  const run = (command: Command | null) => {
    close();
    // After the dialog has given the focus back.
    if (command) setTimeout(command.run, 0);
  };
  return (
    <Dialog open onClose={close} className="relative z-50">
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
              {found.length === 0 && <p className="px-3 py-2 text-ink-6">No command is called that.</p>}
              {found.map((command) => (
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

const ELSEWHERE: readonly [where: string, keys: string, what: string][] = [
  ["View", "Drag", "turn about · right button or Ctrl: move · wheel: nearer and farther"],
  ["View", "Shift drag", "select with a box · Shift click: one more or less"],
  ["Drawing", "Click", "next knot · Enter or double click: done · Backspace: take back · Esc: give up"],
  ["Knots", "Drag", "on the level · Shift: up and down · Alt: on the ground · X Y Z: along an axis"],
  ["Moving", "0–9", "just so far · Ctrl: catch on nothing · Esc: back"],
  ["Strip", "← →", "select the neighbour · Alt: move by 1 cm · Alt Shift: by 10 cm"],
  ["Strip", "Drag", "a prop: peg · with Alt: copy · beside props: hold a gap open · Shift: select"],
  ["Strip", "G", "hold a gap open where the selection is · Delete: close the chosen gap"],
  ["Strip", "Wheel", "zoom · Shift: along the line"],
  ["Fields", "↑ ↓", "step · Shift: ten times · Alt: a tenth"],
];

export function KeysDialog() {
  return (
    <Modal title="Keys" onClose={close} width="w-[560px]">
      <dl className="grid grid-cols-[110px_1fr] gap-x-4 gap-y-1.5">
        {COMMANDS.map(
          ({ id, name, keys }) =>
            keys && (
              <div key={id} className="contents">
                <dt className="text-right">
                  <Keys keys={keys} />
                </dt>
                <dd>{name}</dd>
              </div>
            ),
        )}
        {ELSEWHERE.map(([where, keys, what]) => (
          <div key={where + keys} className="contents">
            <dt className="text-right">
              <kbd className="whitespace-nowrap rounded-md border border-linen-3 bg-linen-0 px-1.5 py-0.5 font-mono text-[11px] text-ink-6">
                {keys}
              </kbd>
            </dt>
            <dd>
              <span className="text-ink-6">{where}: </span>
              {what}
            </dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
