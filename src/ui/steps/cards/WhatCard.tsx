"use client";
/** The card of What: the entries in their order, how they are drawn, and special props for some slots. */
import { useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical, Plus, X } from "lucide-react";
import { kindOf, entrySchema, type Entry } from "@/core/place";
import { useScene } from "@/store";
import { Choose, IconButton, Sorted, ValueField } from "../../kit";
import { PROP_DRAG, AnyPicture, usePropChoices, usePropName } from "../../basket";
import { dressingOf, editDressing, editEntries, selectMix, selectProp, useEdit } from "../../state";
import { ADD, complaintOf, StepChoice, StepSwitch, type CardProps } from "../params";
import { Own } from "./WhatOwn";
import { nextNumber } from "@/core/schema";
import { Specials, Tagged } from "./WhatSpecials";

export function WhatCard({ dressing }: CardProps) {
  const choices = usePropChoices();
  const { entries, order } = dressing.what;
  const total = entries.reduce((sum, entry) => sum + (order === "mixed" ? entry.weight : entry.count), 0);
  const add = (prop: string | null) =>
    editEntries(dressing.id, prop === null ? "Add blank" : "Add prop", (what) => {
      what.entries.push({ ...entrySchema.parse({ prop }), id: nextNumber(what.entries) });
    });
  const reorder = (from: string, to: string) =>
    editDressing(dressing.id, "Reorder props", ({ what }) => {
      const [moved] = what.entries.splice(Number(from), 1);
      what.entries.splice(Number(to), 0, moved);
    });
  return (
    <div
      className="grid gap-1.5"
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(PROP_DRAG)) event.preventDefault();
      }}
      onDrop={(event) => {
        const prop = event.dataTransfer.getData(PROP_DRAG);
        if (!prop) return;
        event.preventDefault();
        event.stopPropagation();
        add(prop);
      }}
    >
      <StepChoice dressing={dressing} step="what" name="order" bare />
      {entries.length === 0 && <p className="text-xs text-ink-6">Choose a prop to repeat.</p>}
      <Sorted
        id="entries"
        ids={entries.map((_, i) => String(i))}
        strategy={verticalListSortingStrategy}
        onMove={reorder}
      >
        <ul className="grid gap-1">
          {entries.map((entry, i) => (
            <EntryRow
              key={entry.id}
              dressing={dressing}
              index={i}
              entry={entry}
              share={total > 0 ? (order === "mixed" ? entry.weight : entry.count) / total : 0}
            />
          ))}
        </ul>
      </Sorted>
      <div className="flex flex-wrap gap-1.5">
        <Choose
          label="Add a prop"
          choices={choices}
          empty="The basket is empty. Drop a mesh's file to add a prop."
          onChoose={add}
          className={ADD}
        >
          <Plus size={13} /> Add a prop
        </Choose>
        <button type="button" className={ADD} onClick={() => add(null)}>
          <Plus size={13} /> Add a blank
        </button>
      </div>
      {order === "mixed" && kindOf(dressing.where).ordered && (
        <StepSwitch dressing={dressing} step="what" name="noRepeat" />
      )}
      <Specials dressing={dressing} />
      <Tagged dressing={dressing} />
      <Own dressing={dressing} />
    </div>
  );
}

interface EntryRowProps extends CardProps {
  index: number;
  entry: Entry;
  share: number;
}

function EntryRow({ dressing, index, entry, share }: EntryRowProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: String(index) });
  const name = dressing.what.order === "mixed" ? "weight" : "count";
  const known = usePropName(entry.prop);
  const mix = useScene((scene) => scene.mixes.some(({ id }) => id === entry.prop));
  const title = entry.prop === null ? "Blank" : (known ?? "A prop that is gone");
  const edit = useEdit<number>(name === "weight" ? "Weight" : "Count", (scene, value) => {
    const entries = dressingOf(scene, dressing.id)?.what.entries;
    if (entries?.[index]) entries[index][name] = value;
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className="flex items-center gap-1.5 rounded-lg bg-paper py-0.5 pr-0.5"
    >
      <button
        type="button"
        className="cursor-grab touch-none py-2 pl-1 text-linen-4"
        aria-label={`Move ${title}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={13} />
      </button>
      <AnyPicture id={entry.prop} size={26} />
      {entry.prop === null && (
        <span
          aria-hidden
          className="m-0.5 size-[22px] shrink-0 rounded border border-dashed border-linen-4 bg-[repeating-linear-gradient(45deg,#f6f0e4_0_3px,#d8cbb3_3px_4px)]"
        />
      )}
      <button
        type="button"
        className="min-w-0 grow truncate text-left text-[12.5px] hover:text-sea"
        title={title}
        onClick={() => {
          if (entry.prop !== null && known) (mix ? selectMix : selectProp)(entry.prop);
        }}
      >
        {title}
      </button>
      <span className="font-mono text-[11px] text-ink-5">{Math.round(share * 100)} %</span>
      <ValueField
        label={`${name === "weight" ? "Weight" : "Count"} of ${title}`}
        unit={name === "weight" ? "number" : "whole"}
        value={entry[name]}
        edit={edit}
        complaint={(value) => complaintOf(entrySchema.shape[name], value)}
        className="w-12"
      />
      <IconButton
        label={`Take ${title} out`}
        className="size-6.5"
        onClick={() => editEntries(dressing.id, "Take prop out", ({ entries }) => void entries.splice(index, 1))}
      >
        <X size={13} />
      </IconButton>
    </li>
  );
}
