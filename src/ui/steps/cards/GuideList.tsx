"use client";
/** Lines or surfaces that a step names: each can be gone to and taken out, and others added. */
import { Plus, X } from "lucide-react";
import type { ReactNode } from "react";
import { Choose, IconButton } from "../../kit";
import { ADD } from "../params";

interface Named {
  id: string;
  name: string;
}

interface GuideListProps {
  /** What one of them is called, as in “Add a line”. */
  noun: string;
  /** What they are taken out of. */
  from?: string;
  chosen: readonly string[];
  things: readonly Named[];
  /** What is said where there is no other to add. */
  empty: string;
  onOpen: (id: string) => void;
  onAdd: (id: string) => void;
  onRemove: (id: string) => void;
  /** More ways to add one. */
  children?: ReactNode;
}

export function GuideList({
  noun,
  from = "dressing",
  chosen,
  things,
  empty,
  onOpen,
  onAdd,
  onRemove,
  children,
}: GuideListProps) {
  const article = /^[aeiou]/.test(noun) ? "an" : "a";
  return (
    <>
      <ul className="grid gap-1">
        {chosen.map((id) => {
          const name = things.find((thing) => thing.id === id)?.name;
          return (
            name !== undefined && (
              <li key={id} className="flex items-center gap-2 rounded-lg bg-paper py-0.5 pl-2.5 pr-0.5">
                <button
                  type="button"
                  className="grow truncate text-left text-[12.5px] hover:text-sea"
                  onClick={() => onOpen(id)}
                  title={`Edit this ${noun}`}
                >
                  {name}
                </button>
                <IconButton label={`Take ${name} out of the ${from}`} className="size-6.5" onClick={() => onRemove(id)}>
                  <X size={13} />
                </IconButton>
              </li>
            )
          );
        })}
      </ul>
      <div className="flex gap-2">
        <Choose
          label={`Add ${article} ${noun}`}
          choices={things.filter(({ id }) => !chosen.includes(id)).map(({ id, name }) => ({ id, label: name }))}
          empty={empty}
          onChoose={onAdd}
          className={ADD}
        >
          <Plus size={13} /> Add {article} {noun}
        </Choose>
        {children}
      </div>
    </>
  );
}
