/**
 * *Flat layouts*: places in a plane, in metres of their own, with keys of their own. They know nothing of what carries them over
 * to a surface.
 *
 *     const { count, x, y } = placesOf(layoutSchema.parse({ columns: 4, rows: 3 })); // 12 places round the origin
 */
import { z } from "zod";
import { choiceParam, lengthParam, numbered, numberSchema, shareParam, wholeParam, within, FARTHEST } from "../schema";

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

/**
 * The places of a layout.
 *
 * @param within those within outlines, round the middle, where it is of that kind
 */
export function placesOf(layout: Layout, within: Places | null = null): Places {
  if (layout.kind === "area") return within ?? emptyPlaces(0);
  return layout.kind === "list" ? listed(layout) : inRows(layout);
}

function inRows({ columns, rows, across, along, stagger }: Layout): Places {
  const whole = columns * rows;
  const fitting = whole <= MOST ? rows : Math.floor(MOST / columns);
  const places = emptyPlaces(columns * fitting, whole - columns * fitting);
  // Counted from the middle, so that one more to either side moves no other by more than half a step.
  const [left, back] = [(columns - 1) / 2, (rows - 1) / 2];
  for (let row = 0, i = 0; row < fitting; row++) {
    const aside = row % 2 === 1 ? stagger * across : 0;
    for (let column = 0; column < columns; column++, i++) {
      places.x[i] = (column - left) * across + aside;
      places.y[i] = (row - back) * along;
      places.name[2 * i] = row;
      places.name[2 * i + 1] = column;
    }
  }
  return places;
}

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
