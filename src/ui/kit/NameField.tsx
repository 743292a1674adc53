"use client";
/** A name that can be written over where it stands. */
import { useState } from "react";

interface NameFieldProps {
  label: string;
  value: string;
  onChange: (name: string) => void;
  /** The field was left, with a new name or without. */
  onDone?: () => void;
  className?: string;
}

export function NameField({ label, value, onChange, onDone, className = "" }: NameFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const name = text?.trim().slice(0, 120);
    if (name && name !== value) onChange(name);
    setText(null);
    onDone?.();
  };
  return (
    <input
      aria-label={label}
      title={label}
      value={text ?? value}
      autoFocus={onDone !== undefined}
      onFocus={(event) => onDone && event.currentTarget.select()}
      maxLength={120}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") {
          event.stopPropagation();
          setText(null);
          onDone?.();
        }
      }}
      className={`-mx-1 min-w-0 rounded border border-transparent bg-transparent px-1 hover:border-linen-3 focus:border-linen-3 focus:bg-white ${className}`}
    />
  );
}
