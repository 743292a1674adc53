"use client";
/** A choice of a few, all in sight. */
import { Radio, RadioGroup } from "@headlessui/react";

interface SegmentedProps<T extends string> {
  label: string;
  help?: string;
  value: T;
  choices: Readonly<Record<T, string>>;
  onChange: (value: T) => void;
  tone?: "card" | "float";
  /** Choices a row, where one row has no room for all. */
  columns?: number;
}

export function Segmented<T extends string>({
  label,
  help,
  value,
  choices,
  onChange,
  tone = "card",
  columns,
}: SegmentedProps<T>) {
  const frame = tone === "card" ? "bg-linen-2 p-0.5" : "";
  const chosen =
    tone === "card"
      ? "data-checked:bg-paper data-checked:text-ink-9 data-checked:shadow-[0_1px_2px_#0002]"
      : "px-2.5 data-checked:bg-sea-soft data-checked:text-sea";
  return (
    <RadioGroup
      value={value}
      onChange={onChange}
      aria-label={label}
      title={help}
      className={`grid rounded-lg text-center text-xs ${columns === undefined ? "grid-flow-col auto-cols-fr" : ""} ${frame}`}
      style={columns === undefined ? undefined : { gridTemplateColumns: `repeat(${columns}, 1fr)` }}
    >
      {(Object.keys(choices) as T[]).map((choice) => (
        <Radio
          key={choice}
          value={choice}
          className={`flex cursor-pointer items-center justify-center rounded-md px-1 py-1 leading-tight text-ink-6 data-checked:font-medium data-focus:outline-2 data-focus:outline-sea ${chosen}`}
        >
          {choices[choice]}
        </Radio>
      ))}
    </RadioGroup>
  );
}
