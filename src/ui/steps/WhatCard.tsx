"use client";
/** The card of What: the entries in their order, how they are drawn, and special props for some slots. */
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical, Plus, X } from "lucide-react";
import { entrySchema, STEP_SCHEMAS, type Entry } from "@/core/place";
import type { Prop } from "@/core/scene";
import { useScene } from "@/store";
import { Choose, IconButton, ValueField } from "../kit";
import { PropPicture } from "../basket/PropPicture";
import { dressingOf, editDressing } from "../state/edits";
import { selectProp } from "../state/session";
import { useEdit } from "../state/useEdit";
import { ADD, complaintOf, StepChoice, StepNumber, StepSwitch, type CardProps } from "./params";

export function WhatCard({ dressing }: CardProps) {
  const props = useScene((scene) => scene.props);
  const { entries, order } = dressing.what;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const total = entries.reduce((sum, entry) => sum + (order === "mixed" ? entry.weight : entry.count), 0);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    editDressing(dressing.id, "Reorder props", ({ what }) => {
      const [moved] = what.entries.splice(Number(active.id), 1);
      what.entries.splice(Number(over.id), 0, moved);
    });
  };
  return (
    <>
      <StepChoice dressing={dressing} step="what" name="order" bare />
      {entries.length === 0 && <p className="text-xs text-ink-6">Choose a prop to repeat.</p>}
      <DndContext id="entries" sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={entries.map((_, i) => String(i))} strategy={verticalListSortingStrategy}>
          <ul className="grid gap-1">
            {entries.map((entry, i) => (
              <EntryRow
                key={`${entry.prop} ${i}`}
                dressing={dressing}
                index={i}
                entry={entry}
                prop={props.find((p) => p.id === entry.prop)}
                share={total > 0 ? (order === "mixed" ? entry.weight : entry.count) / total : 0}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      <div className="flex flex-wrap gap-1.5">
        <Choose
          label="Add a prop"
          choices={props.map((prop) => ({
            id: prop.id,
            label: prop.name,
            picture: <PropPicture prop={prop} size={22} />,
          }))}
          empty="The basket is empty. Drop a GLB file to add a prop."
          onChoose={(prop) =>
            editDressing(dressing.id, "Add prop", (draft) => void draft.what.entries.push(entrySchema.parse({ prop })))
          }
          className={ADD}
        >
          <Plus size={13} /> Add a prop
        </Choose>
        <button
          type="button"
          className={ADD}
          onClick={() =>
            editDressing(
              dressing.id,
              "Add blank",
              (draft) => void draft.what.entries.push(entrySchema.parse({ prop: null })),
            )
          }
        >
          <Plus size={13} /> Add a blank
        </button>
      </div>
      {order === "mixed" && <StepSwitch dressing={dressing} step="what" name="noRepeat" />}
      <div className="grid gap-1 border-t border-linen-2 pt-2">
        {(["first", "last", "nthProp"] as const).map((name) => (
          <Special key={name} dressing={dressing} name={name} props={props} />
        ))}
        {dressing.what.nthProp !== null && <StepNumber dressing={dressing} step="what" name="nth" />}
      </div>
    </>
  );
}

/** A prop of its own for the first, the last or every nth slot. */
function Special({
  dressing,
  name,
  props,
}: CardProps & { name: "first" | "last" | "nthProp"; props: readonly Prop[] }) {
  const { label, help } = STEP_SCHEMAS.what.shape[name].meta() as { label: string; help: string };
  const chosen = props.find((prop) => prop.id === dressing.what[name]);
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6" title={help}>
        {label}
      </span>
      <Choose
        label={`${label}: ${chosen?.name ?? "as the others"}`}
        choices={[
          { id: "", label: "As the others" },
          ...props.map((prop) => ({ id: prop.id, label: prop.name, picture: <PropPicture prop={prop} size={22} /> })),
        ]}
        onChoose={(id) => editDressing(dressing.id, label, (draft) => void (draft.what[name] = id || null))}
        className="flex h-7 items-center gap-1.5 truncate rounded-lg border border-linen-3 bg-white px-2 text-left text-xs"
      >
        {chosen && <PropPicture prop={chosen} size={20} />}
        {chosen?.name ?? <span className="text-ink-6">As the others</span>}
      </Choose>
    </div>
  );
}

interface EntryRowProps extends CardProps {
  index: number;
  entry: Entry;
  prop: Prop | undefined;
  share: number;
}

function EntryRow({ dressing, index, entry, prop, share }: EntryRowProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: String(index) });
  const name = dressing.what.order === "mixed" ? "weight" : "count";
  const title = entry.prop === null ? "Blank" : (prop?.name ?? "A prop that is gone");
  const edit = useEdit<number>(name === "weight" ? "Weight" : "Count", (scene, value) => {
    const entries = dressingOf(scene, dressing.id)?.what.entries;
    if (entries?.[index]) entries[index][name] = value;
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className="flex items-center gap-1.5 rounded-lg bg-white py-0.5 pr-0.5"
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
      {prop && <PropPicture prop={prop} size={26} />}
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
        onClick={() => prop && selectProp(prop.id)}
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
        onClick={() => editDressing(dressing.id, "Take prop out", (draft) => void draft.what.entries.splice(index, 1))}
      >
        <X size={13} />
      </IconButton>
    </li>
  );
}
