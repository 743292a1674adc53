"use client";
/** A flat layout: which surface carries it, and its rows, places or outlines. */
import { useState } from "react";
import type { z } from "zod";
import { layoutSchema } from "@/core/layout";
import { kindOf, sidesOf, type Dressing } from "@/core/place";
import { useScene } from "@/store";
import { Choose, Fold, Toggle, ValueField } from "../../kit";
import {
  carryLayout,
  chartUnder,
  dressingOf,
  useClosedLines,
  editDressing,
  middleOf,
  selectSurface,
  useEdit,
  writePlaces,
} from "../../state";
import { PathChoice, PathNumber, PathSwitch } from "../at-path";
import { ADD, type CardProps } from "../params";
import { Outlines } from "./Outlines";

const LAYOUT = layoutSchema.shape as unknown as Record<string, z.ZodType>;

/** The surface that carries it. */
export function CarriedBy({ dressing }: CardProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  const [on] = dressing.where.surfaces;
  const carrier = surfaces.find(({ id }) => id === on);
  return (
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
        onChoose={(id) => {
          const chart = chartUnder(dressing);
          carryLayout(dressing.id, id, chart && sidesOf(chart));
        }}
        className={ADD}
      >
        {carrier ? "Another…" : "Choose a surface…"}
      </Choose>
    </div>
  );
}

/** Which of the numbers of rows count, by how they are filled. */
const COUNTING: Readonly<Record<Dressing["where"]["patch"]["layout"]["by"], readonly string[]>> = {
  both: ["columns", "rows", "across", "along"],
  distance: ["across", "along"],
  number: ["columns", "rows"],
};

export function LayoutFields({ dressing }: CardProps) {
  const { layout } = dressing.where.patch;
  // What is held at a handle has no sheet to fill.
  const fills = !kindOf(dressing.where).handled;
  const inLayout = (name: string) => ({
    list: "dressings" as const,
    thing: dressing,
    path: ["where", "patch", "layout", name],
    schema: LAYOUT[name],
  });
  return (
    <>
      <PathChoice {...inLayout("kind")} />
      {layout.kind === "grid" && fills && <PathChoice {...inLayout("by")} columns={2} />}
      {layout.kind === "grid" &&
        [...COUNTING[fills ? layout.by : "both"], "stagger"].map((name) => (
          <PathNumber key={name} {...inLayout(name)} />
        ))}
      {layout.kind === "grid" && fills && <PathSwitch {...inLayout("closes")} />}
      {layout.kind === "grid" && (
        <Fold
          label="Left out"
          help="Places of the rows and columns that stay free; any one by itself with Delete."
          summary={layout.skip === "none" && layout.foot + layout.top === 0 ? "" : "some"}
        >
          <PathChoice {...inLayout("skip")} columns={2} />
          <PathNumber {...inLayout("foot")} />
          <PathNumber {...inLayout("top")} />
        </Fold>
      )}
      {layout.kind === "list" && <Places dressing={dressing} />}
      {layout.kind === "area" && <Within dressing={dressing} />}
    </>
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
        aria-label="Places of the layout"
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
