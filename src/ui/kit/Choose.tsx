"use client";
/** A button that opens a short list to choose from. */
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { Fragment, type ReactNode } from "react";

export interface Choice {
  id: string;
  label: string;
  picture?: ReactNode;
  danger?: boolean;
  /** The heading of a group that begins with it. */
  group?: string;
  disabled?: boolean;
}

interface ChooseProps {
  label: string;
  children: ReactNode;
  choices: readonly Choice[];
  onChoose: (id: string) => void;
  className?: string;
  empty?: string;
}

export function Choose({ label, children, choices, onChoose, className = "", empty }: ChooseProps) {
  return (
    <Menu>
      <MenuButton aria-label={label} title={label} className={className}>
        {children}
      </MenuButton>
      <MenuItems
        anchor={{ to: "bottom start", gap: 4, padding: 8 }}
        className="z-40 max-h-80 min-w-44 overflow-auto rounded-[10px] border border-linen-2 bg-linen-0 p-1 shadow-float focus:outline-none"
      >
        {choices.length === 0 && <div className="max-w-56 px-2.5 py-1.5 text-xs text-ink-6">{empty}</div>}
        {choices.map((choice) => (
          <Fragment key={choice.id}>
            {choice.group && (
              <div className="mt-1 border-t border-linen-2 px-2.5 pb-0.5 pt-1.5 text-[11px] text-ink-6">
                {choice.group}
              </div>
            )}
            <MenuItem disabled={choice.disabled}>
              <button
                type="button"
                onClick={() => onChoose(choice.id)}
                className={`flex w-full items-center gap-2 rounded-md px-2.5 py-1.5 text-left text-[12.5px] data-focus:bg-linen-1 data-disabled:opacity-45 ${choice.danger ? "text-madder" : ""}`}
              >
                {choice.picture}
                {choice.label}
              </button>
            </MenuItem>
          </Fragment>
        ))}
      </MenuItems>
    </Menu>
  );
}
