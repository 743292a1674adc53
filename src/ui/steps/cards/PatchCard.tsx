"use client";
/** Of Where: a flat layout that is held to a surface at a handle, and slides over it as one. */
import { useState } from "react";
import type { z } from "zod";
import { layoutSchema } from "@/core/layout";
import { patchSchema } from "@/core/place";
import { useScene } from "@/store";
import { Choose, ValueField } from "../../kit";
import { dressingOf, editDressing, selectSurface, useEdit, writePlaces } from "../../state";
import { PathChoice, PathNumber } from "../at-path";
import { Tide } from "../../time";
import { ADD, type CardProps } from "../params";

const LAYOUT = layoutSchema.shape as unknown as Record<string, z.ZodType>;
const PATCH = patchSchema.shape as unknown as Record<string, z.ZodType>;

export function PatchCard({ dressing }: CardProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  const [on] = dressing.where.surfaces;
  const carrier = surfaces.find(({ id }) => id === on);
  const { layout } = dressing.where.patch;
  const of = { list: "dressings" as const, thing: dressing };
  const inLayout = (name: string) => ({ ...of, path: ["where", "patch", "layout", name], schema: LAYOUT[name] });
  const inPatch = (name: string) => ({ ...of, path: ["where", "patch", name], schema: PATCH[name] });
  return (
    <>
      <div className="flex items-center gap-2 text-[12.5px] text-ink-6">
        On
        {carrier && (
          <button type="button" className="truncate hover:text-sea" onClick={() => selectSurface(carrier.id)}>
            {carrier.name}
          </button>
        )}
        <Choose
          label={carrier ? `Another surface than ${carrier.name}` : "Surface that carries it"}
          choices={surfaces.filter(({ id }) => id !== on).map(({ id, name }) => ({ id, label: name }))}
          empty="There is no other surface in the scene."
          onChoose={(id) => editDressing(dressing.id, "Surface of patch", ({ where }) => void (where.surfaces = [id]))}
          className={ADD}
        >
          {carrier ? "Another…" : "Choose a surface…"}
        </Choose>
      </div>
      <PathChoice {...inLayout("kind")} />
      {layout.kind === "grid" ? (
        ["columns", "rows", "across", "along", "stagger"].map((name) => <PathNumber key={name} {...inLayout(name)} />)
      ) : (
        <Places dressing={dressing} />
      )}
      <PathChoice {...inPatch("held")} columns={2} />
      <PathChoice {...inPatch("beyond")} columns={2} />
      <PathNumber {...inPatch("turn")} />
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
  const edit = useEdit<number>("Move patch", (scene, value) => {
    const patch = dressingOf(scene, dressing.id)?.where.patch;
    if (patch) patch.handle = patch.handle.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      bare
      label={`Handle ${"xyz"[axis]}`}
      unit="m"
      value={dressing.where.patch.handle[axis]}
      edit={edit}
      complaint={() => null}
    />
  );
}

/** Places as they are typed: right and ahead, one behind the other. */
function Places({ dressing }: CardProps) {
  const { places } = dressing.where.patch.layout;
  const written = places.map(({ at }) => at.join(", ")).join("; ");
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const take = () => {
    if (text === null) return;
    const complaint = writePlaces(dressing.id, text);
    setWrong(complaint ?? "");
    if (complaint === null) setText(null);
  };
  return (
    <label className="grid gap-1 text-[12.5px] text-ink-6" title="To the right and ahead of the handle, metres.">
      Places: right, ahead; …
      <textarea
        aria-label="Places of the patch"
        rows={3}
        value={text ?? written}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        className="rounded-lg border border-linen-3 bg-paper px-2 py-1 font-mono text-xs text-ink-9"
      />
      {wrong !== "" && <span className="text-xs text-madder">{wrong}</span>}
    </label>
  );
}
