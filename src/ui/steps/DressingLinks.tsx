"use client";
/** Which dressings have to do with a line or a prop; a click goes to one. */
import type { Dressing } from "@/core/place";
import { selectDressing } from "../state";

export function DressingLinks({ lead, dressings }: { lead: string; dressings: readonly Dressing[] }) {
  if (dressings.length === 0) return null;
  return (
    <p className="text-xs text-ink-6">
      {lead}{" "}
      {dressings.map((dressing, i) => (
        <span key={dressing.id}>
          {i > 0 && ", "}
          <button
            type="button"
            className="border-b border-sea text-ink-9 hover:bg-sea-soft"
            onClick={() => selectDressing(dressing.id)}
          >
            {dressing.name}
          </button>
        </span>
      ))}
    </p>
  );
}
