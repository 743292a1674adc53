/**
 * *Flat layouts*: places in a plane, in metres of their own, with keys of their own. They know nothing of what carries them over
 * to a surface.
 *
 *     const { count, x, y } = placesOf(layoutSchema.parse({ columns: 4, rows: 3 })); // 12 places round the origin
 */
import { z } from "zod";
import {
  choiceParam,
  lengthParam,
  switchParam,
  numbered,
  numberSchema,
  shareParam,
  wholeParam,
  within,
  FARTHEST,
} from "../schema";

const pitch = (label: string, help: string) =>
  lengthParam({ label, help, default: 1, min: 0.0001, max: 100_000, slider: [0.05, 3] });

/** Rows and columns are at most so many together. */
const MOST = 250_000;

export const layoutSchema = z.object({
  kind: choiceParam({
    label: "Laid out",
    help: "In rows and columns, at places that are listed, or within closed lines as they are seen from above, in the pattern that Spacing says.",
    default: "grid",
    choices: { grid: "Rows", list: "List", area: "Outlines" },
  }),
  by: choiceParam({
    label: "Filled by",
    help: "So many at so great a distance; or on a sheet as many as its breadth and height hold at the distance; or so many, shared out over it.",
    default: "both",
    choices: { both: "Number and distance", distance: "Distance", number: "Number" },
  }),
  columns: wholeParam({
    label: "Columns",
    help: "How many stand beside each other.",
    default: 6,
    min: 1,
    max: 5_000,
    slider: [1, 40],
  }),
  rows: wholeParam({
    label: "Rows",
    help: "How many stand behind each other.",
    default: 6,
    min: 1,
    max: 5_000,
    slider: [1, 40],
  }),
  across: pitch("Apart across", "From one column to the next."),
  along: pitch("Apart along", "From one row to the next."),
  stagger: shareParam({
    label: "Staggered",
    help: "By which share of the distance across every second row is moved aside.",
    default: 0,
    slider: [0, 1],
  }),
  closes: switchParam({
    label: "Closes round",
    help: "Where the sheet closes, the column that would come twice is left out, and the others are evened out so that the seam does not show.",
    default: true,
  }),
  skip: choiceParam({
    label: "Left out",
    help: "Which places of the rows and columns stay free.",
    default: "none",
    choices: { none: "None", checker: "Every other, in turn", rows: "Every other row", columns: "Every other column" },
  }),
  foot: wholeParam({
    label: "At the foot",
    help: "So many rows are left out there.",
    default: 0,
    min: 0,
    max: 5_000,
    slider: [0, 10],
  }),
  top: wholeParam({
    label: "At the top",
    help: "So many rows are left out there.",
    default: 0,
    min: 0,
    max: 5_000,
    slider: [0, 10],
  }),
  /** Within outlines: which place of these is held, x and z as seen from above, metres; null for the middle of their box. */
  middle: z
    .tuple([within(FARTHEST), within(FARTHEST)])
    .nullable()
    .default(null),
  /** Places to the right and ahead, metres. */
  places: numbered(
    z.array(z.object({ id: numberSchema.optional(), at: z.tuple([within(FARTHEST), within(FARTHEST)]) })).max(100_000),
  ).default([]),
});

export type Layout = z.infer<typeof layoutSchema>;

/** *Places of a layout*, round its middle. */
export interface Places {
  count: number;
  /** To the right and ahead, metres: n. */
  x: Float64Array;
  y: Float64Array;
  /** What each is known by: two numbers, 2n. A row or column more leaves all others what they are. */
  name: Int32Array;
  /** How many there would be beyond those that there may be. */
  missing: number;
}

/** *What a layout is to fill*: how large it is, metres, and whether it closes across and along. */
export interface Sheet {
  wide: number;
  high: number;
  closes: readonly [across: boolean, along: boolean];
  /** Which of its copies beside each other are wanted, from the first to the last, it being 0; null for it alone. */
  tiles: readonly [across: readonly [number, number], along: readonly [number, number]] | null;
}

/**
 * The places of a layout.
 *
 * @param within those within outlines, round the middle, where it is of that kind
 * @param sheet what it is to fill, round the middle; null for nothing
 */
export function placesOf(layout: Layout, within: Places | null = null, sheet: Sheet | null = null): Places {
  if (layout.kind === "area") return within ?? emptyPlaces(0);
  const places = layout.kind === "list" ? listed(layout) : inRows(layout, sheet);
  return sheet?.tiles ? repeated(places, sheet, sheet.tiles) : places;
}

/** Names of places in copies lie so far apart. */
const [ACROSS_NAMES, ALONG_NAMES] = [1 << 20, 1 << 13];

/** Places with their copies beside each other; the first ones keep their names. */
function repeated(places: Places, { wide, high }: Sheet, [across, along]: NonNullable<Sheet["tiles"]>): Places {
  const { count, x, y, name } = places;
  const copies = (across[1] - across[0] + 1) * (along[1] - along[0] + 1);
  const fitting = Math.max(1, Math.min(copies, Math.floor(MOST / Math.max(1, count))));
  const out = emptyPlaces(fitting * count, places.missing + (copies - fitting) * count);
  let o = 0;
  for (let row = along[0], copy = 0; row <= along[1] && copy < fitting; row++)
    for (let column = across[0]; column <= across[1] && copy < fitting; column++, copy++)
      for (let i = 0; i < count; i++, o++) {
        out.x[o] = x[i] + column * wide;
        out.y[o] = y[i] + row * high;
        out.name[2 * o] = name[2 * i] + row * ALONG_NAMES;
        out.name[2 * o + 1] = name[2 * i + 1] + column * ACROSS_NAMES;
      }
  return out;
}

/** Places in one direction: how many, how far apart, and where the first lies. */
interface Row {
  count: number;
  pitch: number;
  first: number;
}

/** Distances are compared with this share of one, so that rounding never costs the last. */
const SLACK = 1e-9;

function rowOf(by: Layout["by"], count: number, pitch: number, side: number | null, closes: boolean): Row {
  const about = (count: number, pitch: number): Row => ({ count, pitch, first: -((count - 1) * pitch) / 2 });
  if (side === null || !(side > 0)) return about(count, pitch);
  // As many as are said, but where they go all round.
  const round =
    by === "distance" || (by === "both" && (count + 0.5) * pitch >= side) ? Math.round(side / pitch) : count;
  const closed = Math.max(1, Math.min(MOST, round));
  if (closes && (by !== "both" || (count + 0.5) * pitch >= side)) return about(closed, side / closed);
  if (by === "distance") return about(Math.min(MOST, Math.floor(side / pitch + SLACK) + 1), pitch);
  return by === "number" ? about(count, count > 1 ? side / (count - 1) : 0) : about(count, pitch);
}

/** Whether a place of the rows and columns stays free. */
const SKIPS: Readonly<Record<Layout["skip"], (row: number, column: number) => boolean>> = {
  none: () => false,
  checker: (row, column) => (row + column) % 2 === 1,
  rows: (row) => row % 2 === 1,
  columns: (_, column) => column % 2 === 1,
};

function inRows({ by, columns, rows, across, along, stagger, closes, skip, foot, top }: Layout, sheet: Sheet | null) {
  const wide = rowOf(by, columns, across, sheet && sheet.wide, closes && sheet !== null && sheet.closes[0]);
  const high = rowOf(by, rows, along, sheet && sheet.high, closes && sheet !== null && sheet.closes[1]);
  const skipped = SKIPS[skip];
  const fitting = Math.min(high.count, Math.floor(MOST / wide.count));
  const last = Math.min(fitting, high.count - top);
  const whole = wide.count * high.count;
  const places = emptyPlaces(Math.max(0, last - foot) * wide.count, whole - wide.count * fitting);
  // Counted from the middle, so that one more to either side moves no other by more than half a step.
  let i = 0;
  for (let row = foot; row < last; row++) {
    const aside = row % 2 === 1 ? stagger * wide.pitch : 0;
    for (let column = 0; column < wide.count; column++) {
      if (skipped(row, column)) continue;
      places.x[i] = wide.first + column * wide.pitch + aside;
      places.y[i] = high.first + row * high.pitch;
      places.name[2 * i] = row;
      places.name[2 * i + 1] = column;
      i++;
    }
  }
  return i === places.count ? places : firstOf(places, i);
}

const firstOf = ({ x, y, name, missing }: Places, count: number): Places => ({
  count,
  x: x.subarray(0, count),
  y: y.subarray(0, count),
  name: name.subarray(0, 2 * count),
  missing,
});

function listed({ places: all }: Layout): Places {
  const places = emptyPlaces(all.length);
  all.forEach(({ id = 0, at }, i) => {
    [places.x[i], places.y[i]] = at;
    places.name[2 * i] = -1;
    places.name[2 * i + 1] = id;
  });
  return places;
}

export const emptyPlaces = (count: number, missing = 0): Places => ({
  count,
  x: new Float64Array(count),
  y: new Float64Array(count),
  name: new Int32Array(2 * count),
  missing,
});
