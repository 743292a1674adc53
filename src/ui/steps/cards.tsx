"use client";
/** The cards of the seven steps: for each exactly the controls that it has. */
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
import { ChevronLeft, ChevronRight, GripVertical, Plus, X } from "lucide-react";
import type { ComponentType } from "react";
import { entrySchema, type Dressing, type Entry, type StepName } from "@/core/place";
import type { Prop } from "@/core/scene";
import { useScene } from "@/store";
import { Choose, IconButton, ValueField } from "../kit";
import { PropPicture } from "../basket/PropPicture";
import { startDrawing } from "../view/draw-state";
import { dressingOf, editDressing, peggedKeys, unpeg } from "../state/edits";
import { selectLine, selectProp } from "../state/session";
import { useEdit } from "../state/useEdit";
import { PlacesField } from "./PlacesField";
import { complaintOf, StepChoice, StepNumber, StepRange, StepSwitch } from "./params";

interface CardProps {
  dressing: Dressing;
}

const ADD =
  "inline-flex h-7 items-center gap-1 rounded-lg border border-dashed border-linen-4 bg-linen-0 px-2 text-xs hover:bg-white";

function WhereCard({ dressing }: CardProps) {
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

function WhatCard({ dressing }: CardProps) {
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
      <div>
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
      </div>
    </>
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
        aria-label={`Move ${prop?.name ?? "prop"}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={13} />
      </button>
      {prop && <PropPicture prop={prop} size={26} />}
      <button
        type="button"
        className="min-w-0 grow truncate text-left text-[12.5px] hover:text-sea"
        title={prop?.name}
        onClick={() => prop && selectProp(prop.id)}
      >
        {prop?.name ?? "A prop that is gone"}
      </button>
      <span className="font-mono text-[11px] text-ink-5">{Math.round(share * 100)} %</span>
      <ValueField
        label={`${name === "weight" ? "Weight" : "Count"} of ${prop?.name ?? "prop"}`}
        unit={name === "weight" ? "number" : "whole"}
        value={entry[name]}
        edit={edit}
        complaint={(value) => complaintOf(entrySchema.shape[name], value)}
        className="w-12"
      />
      <IconButton
        label={`Take ${prop?.name ?? "prop"} out`}
        className="size-6.5"
        onClick={() => editDressing(dressing.id, "Take prop out", (draft) => void draft.what.entries.splice(index, 1))}
      >
        <X size={13} />
      </IconButton>
    </li>
  );
}

function SpacingCard({ dressing }: CardProps) {
  const { by, measure } = dressing.spacing;
  return (
    <>
      <StepChoice dressing={dressing} step="spacing" name="by" bare />
      {by === "distance" && (
        <>
          <StepNumber dressing={dressing} step="spacing" name="distance" />
          <StepChoice dressing={dressing} step="spacing" name="measure" />
        </>
      )}
      {by === "count" && <StepNumber dressing={dressing} step="spacing" name="count" />}
      {by === "divide" &&
        (["parts", "every", "begin"] as const).map((name) => (
          <StepNumber key={name} dressing={dressing} step="spacing" name={name} />
        ))}
      {by === "list" && <PlacesField dressing={dressing} />}
      <StepNumber dressing={dressing} step="spacing" name="fromStart" />
      <StepNumber dressing={dressing} step="spacing" name="fromEnd" />
      <StepNumber dressing={dressing} step="spacing" name="slide" />
      {by === "distance" && measure === "along" && <StepChoice dressing={dressing} step="spacing" name="remainder" />}
    </>
  );
}

function StanceCard({ dressing }: CardProps) {
  return (
    <>
      <StepChoice dressing={dressing} step="stance" name="meets" />
      <StepChoice dressing={dressing} step="stance" name="up" />
      <StepNumber dressing={dressing} step="stance" name="turnAlong" />
      <StepNumber dressing={dressing} step="stance" name="turnAcross" />
      <StepNumber dressing={dressing} step="stance" name="turnUp" />
    </>
  );
}

function FitCard({ dressing }: CardProps) {
  return (
    <>
      <StepNumber dressing={dressing} step="fit" name="along" />
      <StepNumber dressing={dressing} step="fit" name="across" />
      <StepNumber dressing={dressing} step="fit" name="up" />
    </>
  );
}

function VariationCard({ dressing }: CardProps) {
  const { seed, positionOn, turnOn, sizeOn } = dressing.variation;
  const setSeed = (next: number) =>
    editDressing(dressing.id, "Seed", ({ variation }) => void (variation.seed = Math.max(0, Math.min(999_999, next))));
  return (
    <>
      <StepSwitch dressing={dressing} step="variation" name="positionOn" />
      {positionOn &&
        (["along", "across", "up"] as const).map((name) => (
          <StepRange key={name} dressing={dressing} step="variation" name={name} />
        ))}
      <StepSwitch dressing={dressing} step="variation" name="turnOn" />
      {turnOn &&
        (["turnAlong", "turnAcross", "turnUp"] as const).map((name) => (
          <StepRange key={name} dressing={dressing} step="variation" name={name} />
        ))}
      <StepSwitch dressing={dressing} step="variation" name="sizeOn" />
      {sizeOn && <StepRange dressing={dressing} step="variation" name="size" />}
      <div className="flex items-center gap-1 border-t border-linen-2 pt-2.5">
        <div className="grow">
          <StepNumber dressing={dressing} step="variation" name="seed" />
        </div>
        <IconButton label="Previous seed" className="size-6.5" disabled={seed === 0} onClick={() => setSeed(seed - 1)}>
          <ChevronLeft size={14} />
        </IconButton>
        <IconButton label="Next seed" className="size-6.5" onClick={() => setSeed(seed + 1)}>
          <ChevronRight size={14} />
        </IconButton>
      </div>
    </>
  );
}

function GapsCard({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const pegs = dressing.pegs.length;
  return (
    <>
      <StepNumber dressing={dressing} step="gaps" name="chance" />
      {pegs > 0 && (
        <div className="flex items-center justify-between text-[12.5px] text-ink-6">
          <span>
            {pegs} {pegs === 1 ? "placement" : "placements"} pegged by hand
          </span>
          <button type="button" className={ADD} onClick={() => unpeg(dressing.id, peggedKeys(dressing, lines))}>
            Take all pegs off
          </button>
        </div>
      )}
    </>
  );
}

export const CARDS: Readonly<Record<StepName, ComponentType<CardProps>>> = {
  where: WhereCard,
  what: WhatCard,
  spacing: SpacingCard,
  stance: StanceCard,
  fit: FitCard,
  variation: VariationCard,
  gaps: GapsCard,
};
