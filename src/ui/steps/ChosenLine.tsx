"use client";
/** One line of the scene, chosen by its name. */
import { useScene } from "@/store";
import { Choose } from "../kit";

interface ChosenLineProps {
  label: string;
  chosen: string | null;
  onChoose: (id: string) => void;
}

export function ChosenLine({ label, chosen, onChoose }: ChosenLineProps) {
  const lines = useScene((scene) => scene.lines).filter(({ kind }) => kind !== "between");
  const name = lines.find(({ id }) => id === chosen)?.name ?? "none yet";
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6">{label}</span>
      <Choose
        label={`${label}: ${name}`}
        choices={lines.map((line) => ({ id: line.id, label: line.name }))}
        empty="There is no line in the scene. Draw one."
        onChoose={onChoose}
        className="h-7 truncate rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs"
      >
        {name}
      </Choose>
    </div>
  );
}
