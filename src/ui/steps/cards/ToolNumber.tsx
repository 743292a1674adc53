"use client";
/** A number of what is in hand, as of a brush: it is no part of the scene and so has no history. */
import { useRef } from "react";
import type { ParamDescription } from "@/core/schema";
import { NumberField } from "../../kit";

interface ToolNumberProps {
  param: ParamDescription;
  value: number;
  standard: number;
  onChange: (next: number) => void;
  least: number;
  most?: number;
}

export function ToolNumber({ param, value, standard, onChange, least, most = Infinity }: ToolNumberProps) {
  const before = useRef(value);
  return (
    <NumberField
      param={param}
      value={value}
      standard={standard}
      edit={{
        set: onChange,
        begin: () => void (before.current = value),
        drag: onChange,
        end: () => undefined,
        cancel: () => onChange(before.current),
      }}
      complaint={(next) => (next < least || next > most ? `it lies between ${least} and ${most}` : null)}
    />
  );
}
