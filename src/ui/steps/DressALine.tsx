"use client";
/** Dressing one of the scene's lines with a prop or a mix. */
import { useScene } from "@/store";
import { Choose } from "../kit";
import { dress } from "../state";

export function DressALine({ what, id }: { what: string; id: string }) {
  const lines = useScene((scene) => scene.lines);
  return (
    <Choose
      label={`Dress a line with this ${what}`}
      choices={lines.map((line) => ({ id: line.id, label: line.name }))}
      empty="There is no line yet. Draw one: it is dressed at once with what is chosen above the view."
      onChoose={(line) => dress(line, id)}
      className="h-8 w-fit rounded-lg border border-ink-9 bg-ink-9 px-2.5 font-medium text-paper hover:bg-ink-6"
    >
      Dress a line…
    </Choose>
  );
}
