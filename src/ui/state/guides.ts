/**
 * Lines as the interface draws and picks them while they are edited, remembered by their ids in a graph of its own. Placements
 * go by those of the engine, which are made of the same lines in the same way.
 */
import { Graph, input, query, type Query } from "@/core/graph";
import {
  GuideLine,
  isKnotted,
  placesOn,
  polygonOf,
  seenPoints,
  spanMiddles as middlesOf,
  taggedSpans as taggedOn,
  type DrawnLine,
  type LaidTrack,
  type Line,
} from "@/core/line";
import type { Vec3 } from "@/core/math";
import { trackOf } from "./laid";

const lineInput = input<Line>("line");
const trackInput = input<LaidTrack | null>("track");
const guide = query("guide", (ask, id) => new GuideLine(ask(lineInput, id)!, ask(trackInput, id)));
const drawn = query("drawn line", (ask, id) =>
  polygonOf(ask(lineInput, id)!, ask(guide, id).curve, ask(trackInput, id)!),
);
const seen = query("seen line", (ask, id) => seenPoints(ask(drawn, id).points));
/** The line before it is bent into a ring or laid onto a surface: where its knots lie. */
const unbent = query("unbent line", (ask, id): Line => {
  const line = ask(lineInput, id)!;
  return line.ring || line.laid ? { ...line, ring: false, laid: null } : line;
});
const drawnUnbent = query("drawn unbent line", (ask, id) => {
  const line = ask(unbent, id);
  return line === ask(lineInput, id) ? ask(drawn, id) : polygonOf(line, new GuideLine(line).curve, null);
});
const middles = query("span middles", (ask, id) => middlesOf(ask(unbent, id), ask(drawnUnbent, id).curve));
const marks = query("marks", (ask, id) => placesOn(ask(guide, id).curve, ask(guide, id).marks));
const tagged = query("tagged spans", (ask, id) => taggedOn(ask(lineInput, id)!, ask(drawn, id)));

const graph = new Graph();
const known = new Set<string>();

function of<V>(wanted: Query<V>, line: Line): V {
  graph.set(lineInput, line.id, line);
  graph.set(trackInput, line.id, trackOf(line));
  known.add(line.id);
  return graph.get(wanted, line.id);
}

/** Forgets all lines but these. */
export function forgetOthers(lines: readonly Pick<Line, "id">[]): void {
  const present = new Set(lines.map(({ id }) => id));
  for (const id of known) {
    if (present.has(id)) continue;
    graph.forget(id);
    known.delete(id);
  }
}

export const drawnLine = (line: Line): DrawnLine => of(drawn, line);

/** The points that a line is drawn through in the view. */
export const drawnPoints = (line: Line): Vec3[] => of(seen, line);

/** The same of the line before it is bent into a ring or laid onto a surface. */
export const drawnByKnots = (line: Line): DrawnLine => of(drawnUnbent, line);

/** The line as placing sees it: frames, marks, corners. */
export const guideOf = (line: Line): GuideLine => of(guide, line);

/** The positions of a line's marks. */
export const markPositions = (line: Line): Vec3[] => of(marks, line);

/** The tags of a line's spans, each once, in the order of the alphabet. */
export const tagsOf = (line: Line): string[] => [...new Set(line.knots.flatMap(({ tag }) => tag ?? []))].sort();

/** Colours of spans with a tag, by its place among the line's tags. */
const TAG_COLOURS = ["#c98a1b", "#4f7f4a", "#7a5ea8", "#b5636a", "#3b7fb0", "#8f7650"];
export const tagColour = (line: Line, tag: string): string =>
  TAG_COLOURS[tagsOf(line).indexOf(tag) % TAG_COLOURS.length] ?? TAG_COLOURS[0];

/** The spans of a line that have a tag, as pieces of its polygon. */
export const taggedSpans = (line: Line): ReturnType<typeof taggedOn> => of(tagged, line);

/** The middle of each way from knot to knot, where a knot can be inserted; a shape has none. */
export const spanMiddles = (line: Line): Vec3[] => (isKnotted(line) ? of(middles, line) : []);
