"use client";
/** Where u and v begin on the surface that a layout is wrapped round, or that is in focus, and how they run over it. */
import { useMemo } from "react";
import { axesOn } from "@/core/mesh";
import { isWrapped } from "@/core/place";
import type { Vec3 } from "@/core/math";
import { useScene } from "@/store";
import { chartOf, useCharted, useMoved, useSession } from "../state";
import { FatLine, Label } from "../three";

const [SEA, OCHRE] = ["#1e6f77", "#c98a1b"];

export function SheetAxes() {
  const focus = useSession((session) => session.focus);
  const selected = useSession((session) => session.dressing);
  const where = useScene((scene) => scene.dressings.find(({ id }) => id === selected)?.where);
  const wrapped = where && isWrapped(where) ? where.surfaces[0] : null;
  const id = focus.kind === "surface" ? focus.id : focus.kind === "dressing" ? wrapped : null;
  const surface = useScene((scene) => scene.surfaces.find((one) => one.id === id));
  const charted = useCharted(({ surfaces }) => surfaces.get(id ?? ""));
  const moved = useMoved(({ shapes }) => shapes.get(id ?? ""));
  const axes = useMemo(
    // It lies wherever its surface has moved.
    () => (charted && surface && (moved ?? true) ? axesOn(chartOf(charted, surface)) : null),
    [charted, surface, moved],
  );
  if (!axes) return null;
  return (
    <>
      <Axis points={axes.u} name="u" color={SEA} />
      <Axis points={axes.v} name="v" color={OCHRE} />
    </>
  );
}

function Axis({ points, name, color }: { points: readonly Vec3[]; name: string; color: string }) {
  if (points.length < 2) return null;
  return (
    <>
      <FatLine points={points} color={color} width={4} />
      <FatLine points={points} color={color} width={4} opacity={0.35} onTop />
      <Label position={points[points.length - 1]} text={name} color={color} />
    </>
  );
}
