"use client";
/** Of a surface: how it is laid flat for the sheet and for what is wrapped round it, and which way u and v go. */
import type { z } from "zod";
import { ALONG_EDGES } from "@/core/lay";
import { layingSchema } from "@/core/mesh";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { X } from "lucide-react";
import { Choose, Fold, IconButton } from "../kit";
import { editSurface, flipped, layAs, quarterOn, selectLine, swapped, turnLaying } from "../state";
import { startPickingSeam } from "../view";
import { PathChoice } from "./at-path";
import { ADD } from "./params";

const LAYING = layingSchema.shape as unknown as Record<string, z.ZodType>;

export function LayingFields({ surface }: { surface: Surface }) {
  const others = useScene((scene) => scene.surfaces).filter(({ id }) => id !== surface.id);
  const at = (name: string) => ({
    list: "surfaces" as const,
    thing: surface,
    path: ["laying", name],
    schema: LAYING[name],
  });
  const { by, quarters, flip, corner } = surface.laying;
  const changed = by !== "best" || quarters > 0 || flip || corner !== "bottom-left";
  return (
    <div className="border-t border-linen-2 pt-2">
      <Fold
        label="Laid flat"
        help="How it lies on the sheet, and how what is wrapped round it goes."
        summary={changed ? LAYING_WORDS[by] : ""}
      >
        <PathChoice {...at("by")} columns={2} />
        <div className="flex flex-wrap gap-1.5">
          <button type="button" className={ADD} onClick={() => turnLaying(surface.id, "Turn sheet", quarterOn)}>
            Turn left
          </button>
          <button type="button" className={ADD} onClick={() => turnLaying(surface.id, "Flip sheet", flipped)}>
            Flip
          </button>
          <button type="button" className={ADD} onClick={() => turnLaying(surface.id, "Swap u and v", swapped)}>
            Swap u and v
          </button>
          <Choose
            label="As another surface lies"
            choices={others.map(({ id, name }) => ({ id, label: name }))}
            empty="There is no other surface in the scene."
            onChoose={(id) => layAs(surface.id, id)}
            className={ADD}
          >
            As another lies…
          </Choose>
        </div>
        <PathChoice {...at("corner")} columns={2} />
        <Seams surface={surface} />
      </Fold>
    </div>
  );
}

/** The lines along its edges at which it is cut open. */
function Seams({ surface }: { surface: Surface }) {
  const lines = useScene((scene) => scene.lines);
  const { seams } = surface.laying;
  const along = lines.filter(
    ({ laid }) => laid?.kind === "edges" && laid.on === surface.id && ALONG_EDGES.has(laid.follow),
  );
  const cut = along.filter(({ id }) => seams.includes(id));
  const edit = (label: string, next: string[]) =>
    editSurface(surface.id, label, ({ laying }) => {
      laying.seams = next;
      if (next.length > 0) laying.by = "unrolled";
    });
  return (
    <div className="grid gap-1.5" role="group" aria-label="Seams">
      <span
        className="text-[12.5px] text-ink-6"
        title="Where it is cut open to be unrolled; without any, where it serves it best."
      >
        Seams
      </span>
      {cut.map(({ id, name }) => (
        <span key={id} className="flex items-center gap-1.5 text-xs">
          <button type="button" className="grow truncate text-left hover:underline" onClick={() => selectLine(id)}>
            {name}
          </button>
          <IconButton
            label={`${name} is no seam any more`}
            className="size-6"
            onClick={() =>
              edit(
                "Take seam off",
                seams.filter((one) => one !== id),
              )
            }
          >
            <X size={13} />
          </IconButton>
        </span>
      ))}
      <div className="flex flex-wrap gap-1.5">
        <button type="button" className={ADD} onClick={() => startPickingSeam(surface.id)}>
          Pick edges…
        </button>
        {along.length > cut.length && (
          <Choose
            label="A line along its edges is a seam"
            choices={along.filter((line) => !cut.includes(line)).map(({ id, name }) => ({ id, label: name }))}
            onChoose={(id) => edit("Seam", [...seams, id])}
            className={ADD}
          >
            A line…
          </Choose>
        )}
      </div>
    </div>
  );
}

const LAYING_WORDS = { best: "turned", uv: "by its UVs", round: "by its profile", unrolled: "unrolled" } as const;
