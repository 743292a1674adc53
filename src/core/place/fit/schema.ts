/** Fit: offsets in the line's own frame, parallel rows, standing on ground, bending and clipping, keeping clear of neighbours. */
import { z } from "zod";
import { choiceParam, idSchema, lengthParam, shareParam, switchParam, wholeParam } from "../../schema";
import { MAX_ROWS } from "../keys";

const offset = (label: string, help: string) => lengthParam({ label, help, default: 0, slider: [-2, 2] });

export const fitSchema = z.object({
  along: offset("Along", "Moves every prop along the line. Past an open end they go straight on."),
  across: offset(
    "Across",
    "Moves every prop to the side: to the left of the line's direction, or to the right below zero.",
  ),
  up: offset("Up", "Moves every prop up, or down below zero."),
  rows: wholeParam({
    label: "Rows",
    help: "How many parallel rows there are.",
    default: 1,
    min: 1,
    max: MAX_ROWS,
    slider: [1, 8],
  }),
  rowDistance: lengthParam({
    label: "Apart",
    help: "The exact distance from one row to the next.",
    default: 0.5,
    min: 0,
    slider: [0.05, 3],
  }),
  rowSide: choiceParam({
    label: "Rows lie",
    help: "Evenly to both sides of the line, or from the line to its left or its right.",
    default: "both",
    choices: { both: "Both sides", left: "Left", right: "Right" },
  }),
  stagger: switchParam({ label: "Staggered", help: "Every second row is moved on by half the spacing." }),
  drop: choiceParam({
    label: "On ground",
    help: "Which way props look for the ground: straight down, down their line's own up, along the ground's normal, or to its nearest point.",
    default: "off",
    choices: { off: "Off", down: "Down", own: "Own up", normal: "Normal", nearest: "Nearest" },
  }),
  dropAs: choiceParam({
    label: "Drops",
    help: "Of loose placements: each by itself; one after the other, so that each may come to lie on those before it; or all as one group that keeps its arrangement and comes down until the first of them touches.",
    default: "each",
    choices: { each: "Each", turn: "On each other", group: "As a group" },
  }),
  dropSeen: choiceParam({
    label: "Takes",
    help: "Where grounds lie over each other: the highest, the first below the prop itself, or the lowest.",
    default: "above",
    choices: { above: "Highest", itself: "Below it", lowest: "Lowest" },
  }),
  dropBy: choiceParam({
    label: "Measured",
    help: "What of the prop comes to the ground: the point of its mesh that reaches it first as it stands in the end, its whole footprint, or its pivot.",
    default: "lowest",
    choices: { lowest: "Lowest point", footprint: "Footprint", pivot: "Pivot" },
  }),
  dropRest: choiceParam({
    label: "Rests on",
    help: "Of the ground under its footprint: the highest, so that nothing digs in; the mean; or the plane that fits it best.",
    default: "highest",
    choices: { highest: "Highest", mean: "Mean", plane: "Plane" },
  }),
  lean: shareParam({
    label: "Lean",
    help: "How far props lean with the ground: not at all, or until they stand square to it.",
    default: 0,
    slider: [0, 1],
  }),
  leanBy: choiceParam({
    label: "Leans by",
    help: "The ground's normal under the prop, smooth over neighbouring triangles or the triangle's own; or the ground under its whole footprint.",
    default: "smooth",
    choices: { smooth: "Smooth", flat: "Flat", footprint: "Footprint" },
  }),
  sink: lengthParam({
    label: "Sink",
    help: "How deep props go into the ground; below zero they are lifted off it.",
    default: 0,
    slider: [-0.5, 0.5],
  }),
  lift: lengthParam({
    label: "Clearance",
    help: "A little room under every prop, so that nothing pokes through.",
    default: 0,
    min: 0,
    slider: [0, 0.01],
  }),
  onto: z.array(idSchema).max(10_000).default([]).meta({
    label: "Onto",
    help: "The surfaces that props are dropped onto; all that are ground where none is named.",
  }),
  ontoProps: z
    .array(idSchema)
    .max(1_000)
    .default([])
    .meta({ label: "and props of", help: "The dressings whose props count as ground too: lanterns on crates." }),
  without: choiceParam({
    label: "No ground",
    help: "What becomes of a prop that has no ground in its way: it stays where it is, stands on a floor, is left out, or goes to the nearest ground.",
    default: "keep",
    choices: { keep: "Stay", floor: "Floor", leave: "Leave out", nearest: "Nearest" },
  }),
  floor: lengthParam({
    label: "Floor at",
    help: "The height of the floor for props that have no ground under them.",
    default: 0,
    slider: [-5, 5],
  }),
  play: lengthParam({
    label: "Play",
    help: "How far a footprint may float over the ground or dig into it before it is a finding.",
    default: 0.05,
    min: 0,
    slider: [0, 0.5],
  }),
  apart: choiceParam({
    label: "Assemblies",
    help: "Whether an assembly is set down as one, or each thing in it by itself, as far above the ground as it is in the assembly; over a surface at the place that it would have if all of it were bent.",
    default: "whole",
    choices: { whole: "As one", each: "Each thing" },
  }),
  bend: switchParam({
    label: "Bend along the line",
    help: "Each prop follows the line's curve instead of staying stiff. Its length is kept.",
  }),
  bendOff: lengthParam({
    label: "True within",
    help: "By how much the edges of what is bent over a surface may be off it: they are cut until they are not.",
    default: 0.001,
    min: 1e-6,
    slider: [0.0002, 0.02],
  }),
  clip: switchParam({
    label: "Clip at the ends",
    help: "What would stick out past an open end of the line is cut off.",
  }),
  clear: choiceParam({
    label: "Keep clear",
    help: "No prop overlaps another of this dressing: by circles as wide as they are, by their footprints on the ground, by their whole boxes, or by their meshes.",
    default: "off",
    choices: { off: "Off", radius: "Radius", footprint: "Footprint", box: "Box", mesh: "Mesh" },
  }),
  clearOf: z.array(idSchema).max(10_000).default([]).meta({
    label: "Also clear of",
    help: "Other dressings, whose props stay where they are; this one's give way to them.",
  }),
  clearBy: choiceParam({
    label: "By",
    help: "The later prop along the line is left out, or pushed on until it is clear.",
    default: "leave",
    choices: { leave: "Leave out", push: "Push along" },
  }),
  clearance: lengthParam({
    label: "Room between",
    help: "How much room stays free between two props; below zero they may overlap by so much.",
    default: 0,
    slider: [0, 1],
  }),
});

export type Fit = z.infer<typeof fitSchema>;

/** What says how props are dropped onto ground that is known. */
export const DROPPING = [
  "drop",
  "dropSeen",
  "dropBy",
  "dropRest",
  "lean",
  "leanBy",
  "sink",
  "lift",
  "without",
  "floor",
] as const satisfies readonly (keyof Fit)[];
export type Dropping = Pick<Fit, (typeof DROPPING)[number]>;

/** What says how props are kept clear of each other. */
export const CLEARING = ["clear", "clearBy", "clearance"] as const satisfies readonly (keyof Fit)[];
export type Clearing = Pick<Fit, (typeof CLEARING)[number]>;
