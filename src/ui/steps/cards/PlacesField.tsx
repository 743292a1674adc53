"use client";
/** Lengths one behind the other, typed as text: the places of Spacing's list, the heights of a rack's levels. */
import { useId, useState } from "react";
import { evaluateExpression, formatValue } from "@/core/schema";
import { leaveField } from "../../kit";
import { complaintOf } from "../params";
import type { z } from "zod";

/** Lengths between semicolons, line ends, or commas with a space behind them: a comma alone may belong to a number. */
export function placesIn(text: string, schema: z.ZodType): number[] {
  const parts = text.split(/;|\n|,\s+/).map((part) => part.trim());
  const places = parts.filter((part) => part !== "").map((part) => evaluateExpression(part, "m"));
  const complaint = complaintOf(schema, places);
  if (complaint) throw new Error(complaint);
  return places;
}

export const placesText = (places: readonly number[]): string =>
  places.map((at) => formatValue(at, "m").replace(" m", "")).join("; ");

interface PlacesFieldProps {
  schema: z.ZodType<number[]>;
  /** Where they count from, in words. */
  from: string;
  list: readonly number[];
  onChange: (label: string, list: number[]) => void;
}

export function PlacesField({ schema, from, list, onChange }: PlacesFieldProps) {
  const { label, help } = schema.meta() as { label: string; help: string };
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const id = useId();
  /** What is typed as places; null where it is none, which is said. */
  const typed = (written: string): number[] | null => {
    try {
      const places = placesIn(written, schema);
      setProblem(null);
      return places;
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
      return null;
    }
  };
  const leave = () => {
    const places = text === null ? null : typed(text);
    if (places === null) return;
    setText(null);
    onChange(label, places);
  };
  return (
    <div className="grid gap-1">
      <label htmlFor={id} title={help} className="text-[12.5px] text-ink-6">
        {label} (metres {from})
      </label>
      <textarea
        id={id}
        rows={3}
        value={text ?? placesText(list)}
        aria-invalid={problem !== null}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          setProblem(null);
        }}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey) {
            event.preventDefault();
            if (text === null || typed(text) !== null) leaveField(event.currentTarget);
          } else if (event.key === "Escape" && text !== null) {
            event.stopPropagation();
            setText(null);
            setProblem(null);
          }
        }}
        spellCheck={false}
        className={`w-full resize-y rounded-[7px] border bg-paper px-2 py-1 font-mono text-xs ${problem ? "border-madder" : "border-linen-3"}`}
      />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="rounded-lg bg-ink-9 px-2.5 py-1.5 text-xs text-paper">
          {problem}
        </p>
      )}
    </div>
  );
}
