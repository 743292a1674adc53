"use client";
/** A choice among the clips that files have, by their numbers. */
import type { ReactNode } from "react";
import { Choose } from "../kit";

interface ClipChoiceProps {
  /** Of each file, its clips in their order. */
  files: readonly (readonly { name: string; seconds: number }[])[];
  clip: number;
  onChoose: (clip: number) => void;
  /** What lets it change over time. */
  mark?: ReactNode;
}

export function ClipChoice({ files, clip, onChoose, mark }: ClipChoiceProps) {
  const most = Math.max(0, ...files.map(({ length }) => length));
  // Files that have a clip of the same number may call it otherwise.
  const labels = Array.from({ length: most }, (_, i) =>
    [...new Set(files.flatMap((clips) => (clips[i] ? `${clips[i].name}, ${inSeconds(clips[i].seconds)}` : [])))].join(
      " / ",
    ),
  );
  return (
    <div className="group/tide grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="flex items-center gap-1 text-[12.5px] text-ink-6">
        Clip
        {mark}
      </span>
      <Choose
        label="Clip"
        choices={labels.map((label, i) => ({ id: String(i), label }))}
        empty="Nothing in the file moves."
        onChoose={(id) => onChoose(Number(id))}
        className="h-7 truncate rounded-md border border-linen-3 bg-paper px-2 text-left text-[12.5px] hover:bg-linen-1"
      >
        {labels[clip] ?? (files.length > 0 ? "none of that number" : "…")}
      </Choose>
    </div>
  );
}

const inSeconds = (seconds: number): string => `${Number(seconds.toFixed(2))} s`;
