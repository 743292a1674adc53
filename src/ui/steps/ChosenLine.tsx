"use client";
/** One line of the scene, chosen by its name. */
import { isFamily } from "@/core/line";
import { useScene } from "@/store";
import { NamedChoice } from "./SnapChoice";

interface ChosenLineProps {
  label: string;
  chosen: string | null;
  onChoose: (id: string) => void;
}

export function ChosenLine({ label, chosen, onChoose }: ChosenLineProps) {
  const lines = useScene((scene) => scene.lines).filter((line) => !isFamily(line));
  const name = lines.find(({ id }) => id === chosen)?.name ?? "none yet";
  return (
    <NamedChoice
      label={label}
      shown={name}
      choices={lines.map((line) => ({ id: line.id, label: line.name }))}
      empty="There is no line in the scene. Draw one."
      onChoose={onChoose}
    />
  );
}
