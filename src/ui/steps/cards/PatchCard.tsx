"use client";
/** Of Where: a flat layout that is held to a surface at a handle, and slides over it as one. */
import { useState } from "react";
import type { z } from "zod";
import { layoutSchema } from "@/core/layout";
import { patchSchema } from "@/core/place";
import { useScene } from "@/store";
import { Choose, Fold, Toggle, ValueField } from "../../kit";
import {
  carryPatch,
  dressingOf,
  useClosedLines,
  editDressing,
  middleOf,
  selectSurface,
  useEdit,
  writePlaces,
} from "../../state";
import { PathChoice, PathNumber } from "../at-path";
import { Tide } from "../../time";
import { ADD, type CardProps } from "../params";
import { Outlines } from "./Outlines";

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
          onChoose={(id) => carryPatch(dressing.id, id)}
          className={ADD}
        >
          {carrier ? "Another…" : "Choose a surface…"}
        </Choose>
      </div>
      <PathChoice {...inLayout("kind")} />
      {layout.kind === "grid" &&
        ["columns", "rows", "across", "along", "stagger"].map((name) => <PathNumber key={name} {...inLayout(name)} />)}
      {layout.kind === "list" && <Places dressing={dressing} />}
      {layout.kind === "area" && <Within dressing={dressing} />}
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

/** Outlines, in which the pattern of Spacing lies, and which place of them is held. */
function Within({ dressing }: CardProps) {
  const closed = useClosedLines();
  return (
    <>
      {dressing.where.areas.length === 0 && (
        <p className="text-xs text-ink-6">
          Choose or draw a closed line: what lies within it, seen from above, is filled in the pattern under Spacing.
        </p>
      )}
      <Outlines dressing={dressing} list="areas" noun="outline" lines={closed} />
      <Fold
        label="Holes"
        help="Closed lines, seen from above, within which nothing stands."
        summary={dressing.where.holes.length > 0 ? String(dressing.where.holes.length) : ""}
      >
        <Outlines dressing={dressing} list="holes" noun="hole" lines={closed} />
      </Fold>
      <MiddleChoice dressing={dressing} />
    </>
  );
}

/** The place of the outlines that the handle holds. */
function MiddleChoice({ dressing }: CardProps) {
  const { middle } = dressing.where.patch.layout;
  const outlines = useScene((scene) => scene.lines).filter(({ id }) => dressing.where.areas.includes(id));
  const write = (next: [number, number] | null) =>
    editDressing(dressing.id, "Held at", ({ where }) => void (where.patch.layout.middle = next));
  return (
    <div className="grid gap-1.5">
      <Toggle
        label="Held at their middle"
        help="The handle holds the middle of the outlines' box, also when they change; else a place of them that is given."
        on={middle === null}
        onChange={(on) => write(on ? null : middleOf(outlines))}
      />
      {middle !== null && (
        <div className="grid grid-cols-[84px_1fr_1fr] items-center gap-1.5 text-[12.5px] text-ink-6">
          Held at
          {([0, 1] as const).map((axis) => (
            <MiddleNumber key={axis} dressing={dressing} axis={axis} />
          ))}
        </div>
      )}
    </div>
  );
}

function MiddleNumber({ dressing, axis }: CardProps & { axis: 0 | 1 }) {
  const edit = useEdit<number>("Held at", (scene, value) => {
    const layout = dressingOf(scene, dressing.id)?.where.patch.layout;
    if (layout?.middle) layout.middle[axis] = value;
  });
  const { middle } = dressing.where.patch.layout;
  return (
    <ValueField
      bare
      label={`Held at ${"xz"[axis]}`}
      unit="m"
      value={middle?.[axis] ?? 0}
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
