/** Surfaces that are made: each kind in a file of its own, all becoming a triangle mesh. */
import { band, BAND_TRIANGLES, bandVertices, travelOf } from "./band";
import { box } from "./box";
import { bumps, trianglesOfBumps } from "./bumps";
import { loft } from "./loft";
import { revolve, REVOLVED_PIECES } from "./revolve";
import { smoothed } from "./smooth";
import {
  bandSchema,
  boxSchema,
  bumpsSchema,
  loftSchema,
  revolveSchema,
  shellSchema,
  smoothedSchema,
  solidSchema,
  tubeSchema,
  type Made,
  type MadeKind,
} from "./schema";
import { omit } from "../schema";
import type { Shell, Solid, Tube } from "./schema";
import type { GuideLine } from "../line";
import type { Shape, TriangleMesh } from "../mesh";
import type { z } from "zod";

export * from "./schema";
export { smoothedTriangles } from "./smooth";

type Guides = ReadonlyMap<string, GuideLine>;

/** The table of kinds: the words for each, how it is described and how it becomes a mesh. */
export const MADE_KINDS: {
  [K in MadeKind]: {
    label: string;
    help: string;
    schema: z.ZodObject;
    /** Whether it is known how far along and across each of its places lies, so that it can be laid flat by that. */
    measured: boolean;
    /** Null for what is made of closed bodies, see `core/solid`. */
    mesh: ((made: Extract<Made, { kind: K }>, guides: Guides, source: Shape | undefined) => TriangleMesh | null) | null;
  };
} = {
  bumps: { label: "Plane with bumps", help: "Ground to begin with.", schema: bumpsSchema, measured: true, mesh: bumps },
  box: { label: "Box", help: "To stand things on, or to fill.", schema: boxSchema, measured: false, mesh: box },
  revolve: {
    label: "Revolved line",
    help: "A line goes round an axis.",
    schema: revolveSchema,
    measured: true,
    mesh: revolve,
  },
  loft: {
    label: "Through lines",
    help: "A surface is laid through lines.",
    schema: loftSchema,
    measured: true,
    mesh: loft,
  },
  band: {
    label: "Band",
    help: "A strip along a line, which can travel.",
    schema: bandSchema,
    measured: false,
    mesh: band,
  },
  tube: {
    label: "Tube",
    help: "Lines become tubes or bars, one body where they meet.",
    schema: tubeSchema,
    measured: false,
    mesh: null,
  },
  shell: {
    label: "Shell",
    help: "A surface gets a thickness.",
    schema: shellSchema,
    measured: false,
    mesh: null,
  },
  solid: {
    label: "Solid",
    help: "Bodies are joined, cut from each other, or what they share is kept.",
    schema: solidSchema,
    measured: false,
    mesh: null,
  },
  smoothed: {
    label: "Smoothed copy",
    help: "A surface with its creases rounded.",
    schema: smoothedSchema,
    measured: false,
    mesh: (made, _, source) => (source ? smoothed(source, made) : null),
  },
};

/** Whether it is made of closed bodies, which takes longer than to be waited for. */
export const isSolid = (made: Made): made is Tube | Shell | Solid => MADE_KINDS[made.kind].mesh === null;

/**
 * The mesh of a made surface in its own coordinates, metres; null while what it is made of is not there.
 *
 * @param guides the lines as they are drawn, by their ids
 * @param source the mesh at rest of the surface that it is a copy of
 */
export const madeMesh = (made: Made, guides: Guides, source?: Shape): TriangleMesh | null =>
  MADE_KINDS[made.kind].mesh?.(made as never, guides, source) ?? null;

/** What is made before it travels: its mesh hangs on nothing else. */
export function beforeTravel(made: Made): Made {
  if (made.kind !== "band") return made;
  return { ...omit(made, "gone"), travel: 0, speed: 0, onceIn: 0 };
}

/** Where the vertices are of what travels, metres: 3v; null for what stays where it was made. */
export function travelled(made: Made, guides: Guides): Float64Array | null {
  const guide = made.kind === "band" && made.line !== null ? guides.get(made.line) : undefined;
  if (made.kind !== "band" || !guide?.curve.closed) return null;
  const far = travelOf(made, guide);
  return far === 0 ? null : bandVertices(made, guide, far);
}

/** How many triangles a made surface has at most, by its numbers alone; 0 where they do not tell: see {@link smoothedTriangles}. */
export function trianglesOf(made: Made): number {
  if (isSolid(made) || made.kind === "smoothed") return 0;
  if (made.kind === "box") return 12;
  if (made.kind === "bumps") return trianglesOfBumps(made);
  if (made.kind === "band") return BAND_TRIANGLES;
  if (made.kind === "revolve") return 2 * REVOLVED_PIECES * made.pieces;
  return 2 * made.along * made.between * Math.max(1, made.closed ? made.lines.length : made.lines.length - 1);
}

/** The lines that a made surface is made of. */
export function linesOf(made: Made): string[] {
  if (made.kind === "loft") return made.lines;
  if (made.kind === "tube") return made.outline === null ? made.lines : [...made.lines, made.outline];
  if (made.kind === "band") return made.line === null ? [] : [made.line];
  if (made.kind !== "revolve") return [];
  return [made.line, made.axis === "line" ? made.axisLine : null].flatMap((id) => id ?? []);
}

/** The surfaces and dressings that a made surface is made of. */
export function thingsOf(made: Made): string[] {
  if ("of" in made) return made.of === null ? [] : [made.of];
  return made.kind === "solid" ? made.parts.map(({ of }) => of) : [];
}
