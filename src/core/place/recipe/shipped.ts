/** The recipes that everybody has, each tried on a line. */
import type { z } from "zod";
import { recipeSchema, type Recipe, type rulesSchema } from "./schema";

const QUARTER = Math.PI / 2;
const DEGREE = Math.PI / 180;

type Input = z.input<typeof rulesSchema>;
type Knob = [name: string, path: string, from: number, to: number];

/** Made when it is asked for, as hardly anybody needs all of them. */
const shipped =
  (name: string, roles: Readonly<Record<string, string>>, rules: Input, ...dials: Knob[]) =>
  (): Recipe =>
    recipeSchema.parse({
      version: 1,
      name,
      roles: Object.entries(roles).map(([id, role]) => ({ id, name: role })),
      rules,
      dials: dials.map(([dial, path, from, to], id) => ({ id, name: dial, drives: [{ path, from, to }] })),
    });

const crooked = (turn: number, aside: number): NonNullable<Input["variation"]> => ({
  turnOn: turn > 0,
  turnAlong: [0, 0],
  turnAcross: [0, 0],
  turnUp: [0 - turn, turn],
  positionOn: aside > 0,
  along: [0, 0],
  across: [0 - aside, aside],
  up: [0, 0],
});

/** By ids that never change. */
export const SHIPPED: Readonly<Record<string, () => Recipe>> = {
  "shipped-railing": shipped(
    "Railing with posts",
    { panel: "Panel", post: "Post" },
    {
      what: { entries: [{ prop: "panel" }], first: "post", last: "post", corner: "post" },
      spacing: { by: "end", remainder: "stretched", anew: true },
      stance: { turnUp: QUARTER },
    },
    ["Sunk", "fit/sink", 0, 0.5],
  ),
  "shipped-bunting": shipped(
    "Bunting",
    { first: "Pennant", second: "Other pennant" },
    {
      what: { entries: [{ prop: "first" }, { prop: "second" }] },
      spacing: { distance: 0.6, remainder: "shared" },
      stance: { meetsUp: "top", turnUp: QUARTER, up: "plumb" },
      variation: { ...crooked(10 * DEGREE, 0), seed: 4 },
    },
    ["Apart", "spacing/distance", 0.2, 2],
    ["Lost ones", "gaps/chance", 0, 0.4],
  ),
  "shipped-beads": shipped(
    "Beads",
    { bead: "Bead" },
    {
      what: { entries: [{ prop: "bead" }] },
      spacing: { by: "end", remainder: "shared" },
      stance: { meetsUp: "centre" },
    },
    ["Room between", "spacing/gap", 0, 0.3],
  ),
  "shipped-chain": shipped(
    "Bollards with chain",
    { bollard: "Bollard", link: "Chain link" },
    {
      what: { entries: [{ prop: "bollard" }, { prop: "link", count: 6 }], last: "bollard" },
      spacing: { by: "end", remainder: "shared" },
    },
    ["Room between", "spacing/gap", 0, 0.3],
  ),
  "shipped-awning": shipped(
    "Awning front",
    { first: "Awning", second: "Other awning" },
    {
      what: { entries: [{ prop: "first" }, { prop: "second" }] },
      spacing: { by: "end", remainder: "stretched" },
      stance: { turnUp: QUARTER, meetsUp: "top" },
    },
    ["Room between", "spacing/gap", 0, 1],
  ),
  "shipped-garland": shipped(
    "Garland",
    { leaf: "Leaf", flower: "Flower" },
    {
      what: { order: "mixed", entries: [{ prop: "leaf", weight: 4 }, { prop: "flower" }] },
      spacing: { distance: 0.5, remainder: "shared" },
      stance: { up: "line", meetsUp: "centre" },
      variation: {
        turnOn: true,
        turnAlong: [-Math.PI, Math.PI],
        turnAcross: [0, 0],
        turnUp: [0, 0],
        sizeOn: true,
        size: [0.8, 1.2],
        seed: 6,
      },
    },
    ["Apart", "spacing/distance", 0.1, 1.5],
  ),
  "shipped-stones": shipped(
    "Stepping stones",
    { stone: "Stone" },
    {
      what: { entries: [{ prop: "stone" }] },
      spacing: { distance: 0.65, remainder: "shared" },
      fit: { drop: "down", sink: 0.02 },
      variation: { ...crooked(Math.PI, 0.08), sizeOn: true, size: [0.85, 1.1], seed: 3 },
    },
    ["Stride", "spacing/distance", 0.4, 1.2],
    ["Sunk", "fit/sink", 0, 0.2],
  ),
  "shipped-edging": shipped(
    "Cobble edging",
    { stone: "Cobble" },
    {
      what: { entries: [{ prop: "stone" }] },
      spacing: { by: "end", gap: 0.02, remainder: "shared" },
      fit: { rows: 2, rowDistance: 0.5, stagger: true, clear: "footprint" },
      variation: { ...crooked(3 * DEGREE, 0.01), seed: 2 },
    },
    ["Rows", "fit/rows", 1, 6],
    ["Rows apart", "fit/rowDistance", 0.1, 2],
    ["Joints", "spacing/gap", 0, 0.1],
  ),
  "shipped-shelf": shipped(
    "Shelf of jars",
    { first: "Jar", second: "Other jar" },
    {
      where: { stacked: true, deep: [3, 3], high: [1, 2], levels: 2, levelRise: 0.5 },
      what: {
        entries: [
          { prop: "first", count: 4 },
          { prop: "second", count: 3 },
        ],
      },
      spacing: { by: "end", gap: 0.02, remainder: "centred", roomBehind: 0.01 },
      gaps: { taken: 0.2 },
      variation: { seed: 5 },
    },
    ["Taken", "gaps/taken", 0, 1],
    ["Levels", "where/levels", 1, 6],
    ["Shelves apart", "where/levelRise", 0.2, 1],
  ),
  "shipped-floats": shipped(
    "Net floats",
    { float: "Float" },
    {
      what: { entries: [{ prop: "float" }] },
      spacing: { distance: 1.2, remainder: "shared" },
      stance: { meetsUp: "centre" },
      variation: { ...crooked(20 * DEGREE, 0), seed: 7 },
    },
    ["Apart", "spacing/distance", 0.3, 4],
    ["Lost ones", "gaps/chance", 0, 0.4],
  ),
  "shipped-washing": shipped(
    "Washing line",
    { first: "Shirt", second: "Sheet", third: "Sock" },
    {
      what: { order: "mixed", noRepeat: true, entries: [{ prop: "first" }, { prop: "second" }, { prop: "third" }] },
      spacing: { distance: 0.9, fromStart: 0.3, fromEnd: 0.3, remainder: "shared" },
      stance: { meetsUp: "top", up: "plumb", turnUp: QUARTER },
      variation: { ...crooked(5 * DEGREE, 0), seed: 9 },
      gaps: { chance: 0.1 },
    },
    ["Apart", "spacing/distance", 0.3, 2],
    ["Gaps", "gaps/chance", 0, 0.6],
  ),
  "shipped-festoon": shipped(
    "Festoon between posts",
    { lamp: "Lamp" },
    {
      what: { entries: [{ prop: "lamp" }] },
      spacing: { distance: 0.8, fromStart: 0.4, fromEnd: 0.4, remainder: "shared" },
      stance: { meetsUp: "top", up: "plumb" },
    },
    ["Apart", "spacing/distance", 0.3, 2],
    ["From the posts", "spacing/fromStart", 0, 1],
  ),
};
