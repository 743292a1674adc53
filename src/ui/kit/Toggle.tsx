"use client";
/** A switch with its label. */
import { Field, Label, Switch } from "@headlessui/react";
import type { ReactNode } from "react";

interface ToggleProps {
  label: string;
  help?: string;
  on: boolean;
  onChange: (on: boolean) => void;
  /** What stands beside its label. */
  mark?: ReactNode;
}

export function Toggle({ label, help, on, onChange, mark }: ToggleProps) {
  return (
    <Field className="group/tide flex items-center justify-between" title={help}>
      <span className="flex items-center gap-1">
        <Label className="cursor-pointer text-[12.5px] font-medium">{label}</Label>
        {mark}
      </span>
      <Switch checked={on} onChange={onChange} className="group grid h-6 w-8 items-center">
        <span className="flex h-4.5 items-center rounded-full bg-linen-3 px-0.5 group-data-checked:bg-sea">
          <span className="size-3.5 rounded-full bg-paper shadow-sm transition group-data-checked:translate-x-3.5" />
        </span>
      </Switch>
    </Field>
  );
}
