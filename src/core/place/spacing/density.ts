/**
 * By density: slots as close as a curve along the line says, 1 being the distance given. Between its points the density
 * changes evenly, so the number of slots up to a place is a parabola a piece, and where each slot lies a closed formula.
 */
import { placedRow, SLACK, type SpacingRule } from "./row";
import type { Spacing } from "./schema";

const MAX_PLACES = 500_000;

export const byDensity: SpacingRule = ({ usable }, params) => {
  const pieces = piecesOf(params.density, usable.length, params.distance);
  const total = pieces.reduce((sum, piece) => sum + piece.slots, 0);
  const places: number[] = [];
  const left = total - Math.floor(total + SLACK);
  const lead = params.remainder === "centred" ? Math.max(0, left) / 2 : 0;
  const filled = params.remainder === "shared" || params.remainder === "stretched";
  const steps = Math.floor(total + SLACK);
  const step = filled && steps > 0 ? total / steps : 1;
  const most = usable.round ? total - SLACK : total + SLACK;
  let before = 0;
  let piece = 0;
  for (let n = 0; n * step + lead <= most && places.length < MAX_PLACES; n++) {
    const wanted = n * step + lead;
    while (piece < pieces.length - 1 && wanted > before + pieces[piece].slots) before += pieces[piece++].slots;
    if (pieces.length === 0) break;
    places.push(usable.from + placeIn(pieces[piece], wanted - before));
  }
  return placedRow(usable, places, params.slide);
};

/** A stretch of line over which the density goes evenly from one value to another. */
interface Piece {
  start: number;
  length: number;
  /** Slots a metre at its start, and by how much that rises a metre. */
  density: number;
  rise: number;
  slots: number;
}

function piecesOf(curve: Spacing["density"], length: number, distance: number): Piece[] {
  const points = [...curve].sort(([a], [b]) => a - b).map(([share, value]) => [share * length, value / distance]);
  const [first, last] = [points[0], points[points.length - 1]];
  const all = [[0, first[1]], ...points, [length, last[1]]];
  return all.slice(1).flatMap(([end, to], i): Piece[] => {
    const [start, density] = all[i];
    if (!(end > start)) return [];
    const rise = (to - density) / (end - start);
    return [{ start, length: end - start, density, rise, slots: ((density + to) / 2) * (end - start) }];
  });
}

/** Where in a piece so many slots have gone by: the root of density · x + rise · x² / 2, in the form that never cancels. */
function placeIn({ start, length, density, rise }: Piece, slots: number): number {
  const root = Math.sqrt(Math.max(0, density * density + 2 * rise * slots));
  const x = density + root > 0 ? (2 * slots) / (density + root) : 0;
  return start + Math.min(length, Math.max(0, x));
}
