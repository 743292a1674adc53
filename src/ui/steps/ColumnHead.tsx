"use client";
/** The head of a column that is about a line, a prop or a mix: back to the dressing, its name, delete. */
import { ArrowLeft, Trash2 } from "lucide-react";
import { IconButton, NameField } from "../kit";
import { selectNothing } from "../state";

interface ColumnHeadProps {
  /** What it is: line, prop or mix. */
  what: string;
  name: string;
  onRename: (name: string) => void;
  onDelete: () => void;
}

export function ColumnHead({ what, name, onRename, onDelete }: ColumnHeadProps) {
  return (
    <div className="flex items-center gap-1">
      <IconButton label="Back to the dressing" className="-ml-2" onClick={selectNothing}>
        <ArrowLeft size={15} />
      </IconButton>
      <NameField
        label={`Name of the ${what}`}
        value={name}
        onChange={onRename}
        className="grow text-[15px] font-semibold"
      />
      <IconButton label={`Delete ${what}`} onClick={onDelete}>
        <Trash2 size={14} />
      </IconButton>
    </div>
  );
}
