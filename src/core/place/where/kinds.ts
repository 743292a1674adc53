/** The kinds of Where, each with what it can do: the rest of the code asks for that, and never which kind it is. */
import { LOOSE, type Where } from "./schema";

/** The kind, and the ids of all that a Where names. */
export type WhereThings = Pick<Where, "kind" | "lines" | "surfaces" | "areas" | "holes" | "volumes">;

export interface WhereKind {
  /** How what it lies on is shown unrolled below the view. */
  unrolls: "strip" | "sheet";
  /** Whether slots follow each other in rows, so that there are a first, a last and a next one. */
  ordered: boolean;
  /** Whether things stand on surfaces, which have slopes, rims and texture coordinates, and can be painted. */
  onSurfaces: boolean;
  /** Whether things fill a space: by the cubic metre, and away from its walls. */
  fills: boolean;
  /** Whether it is a flat layout that a surface carries. */
  laysOut: boolean;
  /** Whether that is held to the surface at a handle. */
  handled: boolean;
  /** Whether rules find the positions; else each is put there by hand. */
  ruled: boolean;
  /** Whether each is held to a place of a surface that was picked by hand. */
  pins: boolean;
  /** Whether props can be sown there by hand, besides whatever the rules come to. */
  sows: boolean;
  /** The ids of what anchors lie on, in the artist's order. */
  hosts(where: WhereThings): readonly string[];
  /** The ids of lines that it runs along or lies within. */
  lines(where: Where): readonly string[];
}

const WHERE_KINDS: Readonly<Record<Where["kind"], WhereKind>> = {
  along: {
    unrolls: "strip",
    ordered: true,
    onSurfaces: false,
    fills: false,
    laysOut: false,
    handled: false,
    ruled: true,
    pins: false,
    sows: false,
    hosts: ({ lines }) => lines,
    lines: ({ lines }) => lines,
  },
  over: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: true,
    fills: false,
    laysOut: false,
    handled: false,
    ruled: true,
    pins: false,
    sows: true,
    // Without surfaces the areas themselves are spread over.
    hosts: ({ surfaces, areas }) => (surfaces.length > 0 ? surfaces : areas),
    lines: ({ areas, holes }) => [...areas, ...holes],
  },
  inside: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: false,
    fills: true,
    laysOut: false,
    handled: false,
    ruled: true,
    pins: false,
    sows: false,
    hosts: ({ volumes }) => volumes,
    lines: () => [],
  },
  pinned: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: true,
    fills: false,
    laysOut: false,
    handled: false,
    ruled: false,
    pins: true,
    sows: true,
    // Those whose surface has gone are loose.
    hosts: ({ surfaces }) => [...surfaces, LOOSE],
    lines: () => [],
  },
  patch: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: true,
    fills: false,
    laysOut: true,
    handled: true,
    ruled: true,
    pins: false,
    sows: false,
    hosts: ({ surfaces }) => surfaces.slice(0, 1),
    lines: ({ patch, areas, holes }) => (patch.layout.kind === "area" ? [...areas, ...holes] : []),
  },
  wrapped: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: true,
    fills: false,
    laysOut: true,
    handled: false,
    ruled: true,
    pins: false,
    sows: false,
    hosts: ({ surfaces }) => surfaces.slice(0, 1),
    lines: ({ patch, areas, holes }) => (patch.layout.kind === "area" ? [...areas, ...holes] : []),
  },
  loose: {
    unrolls: "sheet",
    ordered: false,
    onSurfaces: false,
    fills: false,
    laysOut: false,
    handled: false,
    ruled: false,
    pins: false,
    sows: true,
    hosts: () => [LOOSE],
    lines: () => [],
  },
};

export const kindOf = ({ kind }: Pick<Where, "kind">): WhereKind => WHERE_KINDS[kind];

/** Whether a flat layout is carried by its surface's chart, as which things can be bent. */
export const isWrapped = (where: Pick<Where, "kind">): boolean => kindOf(where).laysOut && !kindOf(where).handled;

/** The ids of what props are spread over or fill: volumes, surfaces, or areas where there are none; none along lines. */
export const fieldIdsOf = (where: WhereThings): readonly string[] => {
  const { ordered, hosts } = kindOf(where);
  return ordered ? [] : hosts(where);
};
