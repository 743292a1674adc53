"use client";
/** Of a surface: how it is laid flat for the sheet and for what is wrapped round it, and which way u and v go. */
import type { z } from "zod";
import { layingSchema } from "@/core/mesh";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { Choose, Fold } from "../kit";
import { flipped, layAs, quarterOn, swapped, turnLaying } from "../state";
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
      </Fold>
    </div>
  );
}

const LAYING_WORDS = { best: "turned", uv: "by its UVs", round: "by its profile", unrolled: "unrolled" } as const;
