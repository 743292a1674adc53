"use client";
/** What can be put in another order, by hand or with the keys; each member says `useSortable` with its id. */
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, type SortingStrategy } from "@dnd-kit/sortable";
import type { ReactNode } from "react";

interface SortedProps<Id extends string | number> {
  /** What it is called among all that are sorted. */
  id: string;
  /** Of its members, in their order; numbers from 1 on. */
  ids: readonly Id[];
  strategy: SortingStrategy;
  onMove: (moved: Id, to: Id) => void;
  children: ReactNode;
}

export function Sorted<Id extends string | number>({ id, ids, strategy, onMove, children }: SortedProps<Id>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(active.id as Id, over.id as Id);
  };
  return (
    <DndContext id={id} sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <SortableContext items={[...ids]} strategy={strategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
