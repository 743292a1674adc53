"use client";
/** The card of Where: the lines that a dressing runs along. */
import { Plus, X } from "lucide-react";
import { useScene } from "@/store";
import { Choose, IconButton } from "../../kit";
import { editDressing } from "../../state/edits";
import { selectLine } from "../../state/session";
import { startDrawing } from "../../view/draw-state";
import { ADD, type CardProps } from "../params";

export function WhereCard({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const { lines: chosen } = dressing.where;
  const free = lines.filter((line) => !chosen.includes(line.id));
  return (
    <>
      {chosen.length === 0 && <p className="text-xs text-ink-6">Choose a line for the props to follow.</p>}
      <ul className="grid gap-1">
        {chosen.map((id) => {
          const line = lines.find((l) => l.id === id);
          return (
            line && (
              <li key={id} className="flex items-center gap-2 rounded-lg bg-white py-0.5 pl-2.5 pr-0.5">
                <button
                  type="button"
                  className="grow truncate text-left text-[12.5px] hover:text-sea"
                  onClick={() => selectLine(id)}
                  title="Edit this line"
                >
                  {line.name}
                </button>
                <IconButton
                  label={`Take ${line.name} out of the dressing`}
                  className="size-6.5"
                  onClick={() =>
                    editDressing(dressing.id, "Take line out", (draft) => {
                      draft.where.lines = draft.where.lines.filter((other) => other !== id);
                    })
                  }
                >
                  <X size={13} />
                </IconButton>
              </li>
            )
          );
        })}
      </ul>
      <div className="flex gap-2">
        <Choose
          label="Add a line"
          choices={free.map((line) => ({ id: line.id, label: line.name }))}
          empty="All lines of the scene are in this dressing. Draw another one."
          onChoose={(id) => editDressing(dressing.id, "Add line", (draft) => void draft.where.lines.push(id))}
          className={ADD}
        >
          <Plus size={13} /> Add a line
        </Choose>
        <button type="button" className={ADD} onClick={startDrawing}>
          Draw line
        </button>
      </div>
    </>
  );
}
