"use client";
/** A name that can be written over where it stands. */
import { useId, useState } from "react";
import { leaveField } from "./leave-field";

interface NameFieldProps {
  label: string;
  value: string;
  onChange: (name: string) => void;
  /** The field was left, with a new name or without. */
  onDone?: () => void;
  /** It may be left empty. */
  empty?: boolean;
  placeholder?: string;
  suggestions?: readonly string[];
  className?: string;
}

export function NameField({
  label,
  value,
  onChange,
  onDone,
  empty = false,
  placeholder,
  suggestions = [],
  className = "",
}: NameFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const name = text?.trim().slice(0, 120);
    if (name !== undefined && (name !== "" || empty) && name !== value) onChange(name);
    setText(null);
    onDone?.();
  };
  const list = useId();
  return (
    <>
      <input
        list={suggestions.length > 0 ? list : undefined}
        placeholder={placeholder}
        aria-label={label}
        title={label}
        value={text ?? value}
        autoFocus={onDone !== undefined}
        onFocus={(event) => onDone && event.currentTarget.select()}
        maxLength={120}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") leaveField(event.currentTarget);
          if (event.key === "Escape") {
            event.stopPropagation();
            setText(null);
            onDone?.();
            event.currentTarget.blur();
          }
        }}
        className={`-mx-1 min-w-0 rounded border border-transparent bg-transparent px-1 hover:border-linen-3 focus:border-linen-3 focus:bg-paper ${className}`}
      />
      {suggestions.length > 0 && (
        <datalist id={list}>
          {suggestions.map((suggestion) => (
            <option key={suggestion} value={suggestion} />
          ))}
        </datalist>
      )}
    </>
  );
}
