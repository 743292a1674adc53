/** Knots of lines that are laid on a surface that moves: shown where that has carried them, and kept where they were at rest. */
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { fromStand, intoOwn, type Stand } from "@/core/mesh";
import { carriedPoint } from "@/core/tie";
import type { Surface } from "@/core/scene";
import { useSceneStore } from "@/store";
import { atRest, carriedByMovers, useMoved } from "./moved";

/** The one surface that a line is laid on, as it is computed at the moment; undefined where there is none or are several. */
function surfaceUnder({ laid }: Pick<Line, "laid">): Surface | undefined {
  if (laid?.kind !== "surface" || laid.on.length !== 1) return undefined;
  return useSceneStore.getState().computed.surfaces.find(({ id }) => id === laid.on[0]);
}

const stoodOf = (surface: Surface): Stand => surface.rest ?? surface;

/** A line with its knots where they are seen; the very same where nothing has carried them. */
export function seenLine(line: Line): Line {
  const surface = surfaceUnder(line);
  if (!surface) return line;
  const knots = line.knots.map((knot) => {
    const own = intoOwn(stoodOf(surface), knot.position);
    const carry = carriedByMovers(surface.id, own, surface);
    if (!carry && !surface.rest) return knot;
    const there = fromStand(surface, own);
    return { ...knot, position: carry ? carriedPoint(carry, there) : there };
  });
  return knots.every((knot, k) => knot === line.knots[k]) ? line : ({ ...line, knots } as Line);
}

/** Where a knot of a line is at rest that is seen at a place. */
export function knotAtRest(line: Pick<Line, "laid">, seen: Vec3): Vec3 {
  const surface = surfaceUnder(line);
  // What stands still gives places back as they are.
  if (!surface || (!surface.rest && !useMoved.getState().shapes.has(surface.id))) return seen;
  return fromStand(stoodOf(surface), atRest(surface.id, intoOwn(surface, seen)));
}
