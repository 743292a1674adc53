"use client";
/** A name that can be written over where it stands. */
import { useState } from "react";

interface NameFieldProps {
  label: string;
  value: string;
  onChange: (name: string) => void;
  className?: string;
}

export function NameField({ label, value, onChange, className = "" }: NameFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const name = text?.trim().slice(0, 120);
    if (name && name !== value) onChange(name);
    setText(null);
  };
  return (
    <input
      aria-label={label}
      title={label}
      value={text ?? value}
      maxLength={120}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") {
          event.stopPropagation();
          setText(null);
        }
      }}
      className={`-mx-1 min-w-0 rounded border border-transparent bg-transparent px-1 hover:border-linen-3 focus:border-linen-3 focus:bg-white ${className}`}
    />
  );
}
