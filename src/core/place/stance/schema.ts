/** Stance: where forward and up come from, turns, flips, and which side of a prop meets the line. */
import { z } from "zod";
import { angleParam, choiceParam, idSchema, secondsParam, shareParam, switchParam, vec3Schema } from "../../schema";

const turn = (label: string, help: string) => angleParam({ label, help, default: 0, slider: [-Math.PI, Math.PI] });

export const stanceSchema = z.object({
  forward: choiceParam({
    label: "Forward",
    help: "Where each prop's front points: along the line (over a surface: the way that its own front points), to a compass heading, at a point or thing, or away from it; over a surface also downhill, towards the nearest line, each its own way, or along u or v of its texture coordinates; inside a volume outward from its middle.",
    default: "along",
    choices: {
      along: "Along",
      heading: "Heading",
      at: "At",
      away: "Away",
      downhill: "Downhill",
      line: "Line",
      random: "Random",
      outward: "Outward",
      uv: "Along u",
      v: "Along v",
    },
  }),
  heading: angleParam({
    label: "Heading",
    help: "0° is north, away from you in the first view; 90° is east.",
    default: 0,
    slider: [0, 2 * Math.PI],
  }),
  point: vec3Schema
    .default([0, 0, 0])
    .meta({ label: "Point", help: "The point that forward or up is measured from, in metres." }),
  thing: idSchema
    .nullable()
    .default(null)
    .meta({ label: "Thing", help: "A line or surface whose middle is taken instead of the point." }),
  up: choiceParam({
    label: "Up from",
    help: "World: forward along the line, up as near to the sky as that allows. Plumb: always upright, turned to the line's heading. Line: the line's own frame, which never twists, with its roll. Roll: as world, turned by the line's roll. Point: up away from the point. Normal: as the surface faces, by as much as is said. Inside a volume: away from its middle.",
    default: "world",
    choices: { world: "World", plumb: "Plumb", line: "Line", roll: "Roll", point: "Point", normal: "Normal" },
  }),
  upBy: shareParam({
    label: "By",
    help: "How far up leans from the world's to the surface's normal: 0 % stands upright, 100 % square to the surface.",
    default: 1,
    slider: [0, 1],
  }),
  normals: choiceParam({
    label: "Normals",
    help: "The surface's as it is shaded, smooth from triangle to triangle, or each triangle's own.",
    default: "smooth",
    choices: { smooth: "Smooth", flat: "Each triangle's" },
  }),
  meetsUp: choiceParam({
    label: "Meets with its",
    help: "Which height of the prop meets the line: a prop stands on its bottom and hangs from its top.",
    default: "bottom",
    choices: { bottom: "Bottom", centre: "Centre", top: "Top", pivot: "Pivot" },
  }),
  meetsAlong: choiceParam({
    label: "Along, its",
    help: "Which part of the prop, from back to front, meets the line.",
    default: "pivot",
    choices: { back: "Back", centre: "Centre", front: "Front", pivot: "Pivot" },
  }),
  meetsAcross: choiceParam({
    label: "Across, its",
    help: "Which part of the prop, from right to left, meets the line.",
    default: "pivot",
    choices: { left: "Left", centre: "Centre", right: "Right", pivot: "Pivot" },
  }),
  turnAlong: turn("Turn along", "Rolls each prop about the line's direction."),
  turnAcross: turn("Turn across", "Tips each prop forward or back, about the direction across the line."),
  turnUp: turn("Turn up", "Turns each prop about its up."),
  banks: switchParam({
    label: "Bank in bends",
    help: "What travels along a line leans into its bends by itself, as much as its speed there asks for.",
  }),
  bankMost: angleParam({
    label: "Lean at most",
    help: "No further than this to either side.",
    default: Math.PI / 4,
    min: 0,
    max: Math.PI,
    slider: [0, Math.PI / 2],
  }),
  bankAfter: secondsParam({
    label: "Lean late by",
    help: "How long after the bend it leans; below zero before it.",
    default: 0,
    min: -1000,
    max: 1000,
    slider: [-0.5, 0.5],
  }),
  flip: choiceParam({
    label: "Flip every other",
    help: "Turns every second prop half round, about up, along the line or across it.",
    default: "none",
    choices: { none: "None", up: "Up", along: "Along", across: "Across" },
  }),
});

export type Stance = z.infer<typeof stanceSchema>;
