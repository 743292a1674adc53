"use client";
/** Of Where: a flat layout that is held to a surface at a handle, and slides over it as one. */
import type { z } from "zod";
import { patchSchema } from "@/core/place";
import { ValueField } from "../../kit";
import { useScene } from "@/store";
import { letHandleGo, seenHandle, useEdit, writeFreeHandle } from "../../state";
import { Tied } from "../HeldBy";
import { PathChoice, PathNumber } from "../at-path";
import { Tide } from "../../time";
import type { CardProps } from "../params";
import { CarriedBy, LayoutFields } from "./LayoutFields";

const PATCH = patchSchema.shape as unknown as Record<string, z.ZodType>;

export function PatchCard({ dressing }: CardProps) {
  const of = { list: "dressings" as const, thing: dressing };
  const inPatch = (name: string) => ({ ...of, path: ["where", "patch", name], schema: PATCH[name] });
  return (
    <>
      <CarriedBy dressing={dressing} />
      <LayoutFields dressing={dressing} />
      <PathChoice {...inPatch("held")} columns={2} />
      <PathChoice {...inPatch("beyond")} columns={2} />
      <PathNumber {...inPatch("turn")} />
      {dressing.where.patch.tied && <Tied tie={dressing.where.patch.tied} onLetGo={() => letHandleGo(dressing.id)} />}
      <div className="group/tide grid grid-cols-[84px_1fr_1fr_1fr] items-center gap-1.5">
        <span className="flex items-center gap-1 text-[12.5px] text-ink-6" title="Drag its ring over the surface.">
          Handle
          <Tide at={{ list: "dressings", id: dressing.id, path: "where/patch/handle" }} label="Handle" />
        </span>
        {([0, 1, 2] as const).map((axis) => (
          <HandleNumber key={axis} dressing={dressing} axis={axis} />
        ))}
      </div>
    </>
  );
}

function HandleNumber({ dressing, axis }: CardProps & { axis: 0 | 1 | 2 }) {
  const handle = useScene((scene) => seenHandle(scene, dressing)[axis]);
  const edit = useEdit<number>("Move patch", (scene, value) => writeFreeHandle(scene, dressing.id, axis, value));
  return <ValueField bare label={`Handle ${"xyz"[axis]}`} unit="m" value={handle} edit={edit} complaint={() => null} />;
}
