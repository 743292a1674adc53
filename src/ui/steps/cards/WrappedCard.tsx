"use client";
/** Of Where: a flat layout that a surface carries as it is laid flat. */
import type { z } from "zod";
import { patchSchema, wrapSchema } from "@/core/place";
import { useScene } from "@/store";
import { Fold } from "../../kit";
import { selectSurface } from "../../state";
import { PathChoice, PathNumber } from "../at-path";
import type { CardProps } from "../params";
import { CarriedBy, LayoutFields } from "./LayoutFields";

const PATCH = patchSchema.shape as unknown as Record<string, z.ZodType>;
const WRAP = wrapSchema.shape as unknown as Record<string, z.ZodType>;
const SIZED = ["wide", "high"] as const;

export function WrappedCard({ dressing }: CardProps) {
  const { wrap, surfaces } = dressing.where;
  const carrier = useScene((scene) => scene.surfaces.find(({ id }) => id === surfaces[0]));
  const of = { list: "dressings" as const, thing: dressing };
  const inWrap = (name: string) => ({ ...of, path: ["where", "wrap", name], schema: WRAP[name] });
  const inPatch = (name: string) => ({ ...of, path: ["where", "patch", name], schema: PATCH[name] });
  return (
    <>
      <CarriedBy dressing={dressing} />
      <LayoutFields dressing={dressing} />
      <PathChoice {...inWrap("from")} columns={2} />
      <PathNumber {...inWrap("right")} />
      <PathNumber {...inWrap("up")} />
      <PathNumber {...inPatch("turn")} />
      <PathChoice {...inPatch("beyond")} columns={2} />
      <Fold
        label="On another size"
        help="What becomes of the layout on a surface that is larger or smaller than the sheet that it was laid out for."
        summary={wrap.fit === "metres" ? "" : wrap.fit === "stretch" ? "stretched" : "repeated"}
      >
        <PathChoice {...inWrap("fit")} columns={1} />
        {wrap.fit !== "metres" && SIZED.map((name) => <PathNumber key={name} {...inWrap(name)} />)}
      </Fold>
      {carrier && (
        <button
          type="button"
          className="w-fit text-left text-xs text-ink-6 hover:text-sea"
          onClick={() => selectSurface(carrier.id)}
        >
          How {carrier.name} is laid flat, turned and where u and v begin is said with the surface
        </button>
      )}
    </>
  );
}
