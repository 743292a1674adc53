/** Where: along lines, over surfaces and areas, inside volumes, or loose: wherever each is put by hand. */
import { z } from "zod";
import { layoutSchema } from "../../layout";
import { angleParam, choiceParam, idSchema, lengthParam, vec3Schema } from "../../schema";
import { tieSchema } from "../../tie";
import { ADDED_TAG } from "../keys";
import { rackParams } from "./rack-params";

/** Fields of a dressing can be told apart as long as there are no more. */
const MOST_FIELDS = ADDED_TAG;

const ids = z.array(idSchema).max(65_535).default([]);

export const patchSchema = z.object({
  layout: layoutSchema.prefault({}),
  handle: vec3Schema
    .default([0, 0, 0])
    .meta({ label: "Handle", help: "Where the layout's middle is held, in the surface's own metres; put onto it." }),
  turn: angleParam({
    label: "Turned",
    help: "By how much the whole layout is turned about its handle.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
  /** What the handle goes along with, as near to it as the surface is; null for nothing. */
  tied: tieSchema.nullable().default(null),
  held: choiceParam({
    label: "Held",
    help: "By walking over the surface, which keeps distances and angles from the handle as if it were unrolled there; straight onto it along the normal at the handle; or each at the nearest place.",
    default: "walked",
    choices: { walked: "By walking", projected: "Straight onto it", nearest: "Nearest" },
  }),
  beyond: choiceParam({
    label: "Beyond its edge",
    help: "What becomes of places where the surface ends: they stop at its edge, are left out, or go on flat.",
    default: "leave",
    choices: { stop: "Stop there", leave: "Leave out", flat: "Go on flat" },
  }),
});

export const wrapSchema = z.object({
  from: choiceParam({
    label: "Measured from",
    help: "Whether the layout's middle lies in the middle of the surface as it is laid flat, or its corner in the corner.",
    default: "middle",
    choices: { middle: "The middle", corner: "The corner" },
  }),
  right: lengthParam({
    label: "Moved right",
    help: "By how much the whole layout is moved along u.",
    default: 0,
    slider: [-5, 5],
  }),
  up: lengthParam({
    label: "Moved up",
    help: "By how much the whole layout is moved along v.",
    default: 0,
    slider: [-5, 5],
  }),
  fit: choiceParam({
    label: "On another size",
    help: "What becomes of the layout where the surface is not as large as the sheet that it was laid out for: it keeps its metres, is stretched, or repeats.",
    default: "metres",
    choices: { metres: "Keeps its metres", stretch: "Stretched", repeat: "Repeated" },
  }),
  wide: lengthParam({
    label: "Laid out for, wide",
    help: "How wide the sheet is that it was laid out for; 0 for as wide as the surface.",
    default: 0,
    min: 0,
    slider: [0, 20],
  }),
  high: lengthParam({
    label: "Laid out for, high",
    help: "How high the sheet is that it was laid out for; 0 for as high as the surface.",
    default: 0,
    min: 0,
    slider: [0, 20],
  }),
});

export const whereSchema = z.object({
  kind: choiceParam({
    label: "Where",
    help: "Along lines, spread over surfaces and areas, inside volumes, pinned to surfaces at places that are picked, a patch that slides over a surface as one, wrapped round a surface as it lies flat, or loose, each put down by hand.",
    default: "along",
    choices: {
      along: "Along",
      over: "Over",
      inside: "Inside",
      pinned: "Pinned",
      patch: "Patch",
      wrapped: "Wrapped",
      loose: "Loose",
    },
  }),
  /** Ids of the lines, in the artist's order. A line that is no longer in the scene is passed over. */
  lines: ids,
  ...rackParams,
  /** Over and pinned: the surfaces; at most so many as keys can tell apart. Without any, the areas themselves are spread over. */
  surfaces: z.array(idSchema).max(MOST_FIELDS).default([]),
  /** A patch: a flat layout, held to the first of the surfaces at a handle. */
  patch: patchSchema.prefault({}),
  /** Wrapped: how the same layout lies on the surface as that is laid flat. */
  wrap: wrapSchema.prefault({}),
  /** Over: closed lines; what lies within one of them, seen from above, belongs to it. Without any, all of the surfaces. */
  areas: ids,
  /** Over: closed lines that cut holes. */
  holes: ids,
  /** Inside: the surfaces whose insides are filled. */
  volumes: z.array(idSchema).max(MOST_FIELDS).default([]),
});

export type Where = z.infer<typeof whereSchema>;

/** What pegs of loose placements name instead of a surface, and those of pins that have lost theirs. */
export const LOOSE = "loose";

/** Under what a patch's handle is known among a dressing's pegs, where ties are named. */
export const HANDLE = "handle";
