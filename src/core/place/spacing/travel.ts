/**
 * *Travel*: how far the slots have gone along their line. Each keeps its number on the way, and so its prop, draws and peg. On a
 * closed line they go round; on an open one they leave at the end and come in at the start, or go together and stay at the
 * end, or turn back there.
 */
import { placeIn, SLACK, type Row, type RowInput, type SpacingRule, type Usable } from "./row";
import { isEndToEnd, type Spacing } from "./schema";

/** How far they have gone, metres: by hand, by their speed, and by how often they have been all along. */
function gone({ travel, gone }: Spacing, { length }: Usable): number {
  return travel + (gone ? gone.metres + gone.rounds * length : 0);
}

/** A way of spacing, with what travel makes of it, slower at knots if that is wanted. */
export function travelled(way: SpacingRule, input: RowInput, params: Spacing): Row {
  const row = goneAlong(way, input, params);
  return params.atKnots > 0 && !isEndToEnd(params) ? slowerAtKnots(row, input.line, params.atKnots) : row;
}

/** Between two knots places go as a smooth step does, by a share: on a closed line round through its start as well. */
function slowerAtKnots(row: Row, { knotAt, closed, length }: RowInput["line"], share: number): Row {
  const knots = closed ? [...knotAt, knotAt[0] + length] : [...knotAt];
  const places = Float64Array.from({ length: row.count }, (_, i) => {
    const raw = placeIn(row, i);
    const turns = closed ? length * Math.floor((raw - knots[0]) / length) : 0;
    const at = raw - turns;
    const k = lastUpTo(knots, at);
    const [from, to] = [knots[k], knots[k + 1]];
    // Beyond the first and the last knot there is nothing to be slow at; what is no place stays none.
    if (!(to > from && at > from && at < to)) return raw;
    const s = (at - from) / (to - from);
    return turns + from + (to - from) * (s + share * (s * s * (3 - 2 * s) - s));
  });
  return { ...row, places };
}

/** The last of some rising numbers that is not above another; the first where all are. */
function lastUpTo(rising: readonly number[], at: number): number {
  let [low, high] = [0, rising.length];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (rising[middle] <= at) low = middle;
    else high = middle;
  }
  return low;
}

function goneAlong(way: SpacingRule, input: RowInput, params: Spacing): Row {
  const { usable } = input;
  const by = gone(params, usable);
  if (by === 0 || !(usable.length > 0)) return way(input, params);
  const slid = (by: number) => way(input, { ...params, slide: params.slide + by });
  if (usable.round) {
    const round = by - Math.floor(by / usable.length) * usable.length;
    return isEndToEnd(params) ? slid(round) : moved(way(input, params), round);
  }
  if (params.travelEnds === "through") {
    // New ones come in behind those that leave; where their number is fixed it is the same ones.
    const endless = isEndToEnd(params) || (params.by === "distance" && params.measure === "along");
    return endless ? slid(by) : wrapped(way(input, params), usable, by);
  }
  const natural = way(input, params);
  if (natural.count === 0) return natural;
  const together = within(by, roomOf(natural, usable), params.travelEnds);
  const there = isEndToEnd(params) ? only(slid(together), natural) : moved(natural, together);
  return { ...there, halted: params.travelEnds === "stay" && together !== by };
}

/** All of a row's slots so many metres on. */
function moved(row: Row, by: number): Row {
  return { ...row, places: Float64Array.from({ length: row.count }, (_, i) => placeIn(row, i) + by) };
}

/** How far a row can go back and on as a whole. */
function roomOf(row: Row, { from, length }: Usable): readonly [back: number, on: number] {
  const last = row.count - 1;
  const [begin, end] = row.spans ? [row.spans[0], row.spans[2 * last + 1]] : [placeIn(row, 0), placeIn(row, last)];
  return [Math.min(0, from - begin), Math.max(0, from + length - end)];
}

function within(by: number, [back, on]: readonly [number, number], ends: "stay" | "back"): number {
  if (ends === "stay") return Math.min(on, Math.max(back, by));
  const room = on - back;
  if (room === 0) return 0;
  const there = by - back - 2 * room * Math.floor((by - back) / (2 * room));
  return back + Math.min(there, 2 * room - there);
}

/** Of a row the slots that another one has too. */
function only(row: Row, { from, count }: Row): Row {
  const first = Math.max(0, from - row.from);
  const end = Math.max(first, Math.min(row.count, from + count - row.from));
  return {
    ...row,
    from: row.from + first,
    count: end - first,
    places: row.places && row.places.subarray(first, end),
    spans: row.spans && row.spans.subarray(2 * first, 2 * end),
    props: row.props && row.props.subarray(first, end),
    wanted: end - first,
  };
}

/**
 * A row whose slots come in at the start again when they have left at the end. Evenly spaced ones keep their distance: the
 * round is as long as all of them take, and who is on the part of it that is beyond the line is not there.
 */
function wrapped(row: Row, { from, length }: Usable, by: number): Row {
  const round = row.places === null ? Math.max(length, row.count * row.step) : length;
  const slack = SLACK * length;
  const places = Float64Array.from({ length: row.count }, (_, i) => {
    const on = placeIn(row, i) - from + by;
    const there = on - Math.floor(on / round) * round;
    return there <= length + slack ? from + Math.min(length, there) : NaN;
  });
  return { ...row, places };
}
