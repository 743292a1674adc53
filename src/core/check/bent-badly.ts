/** Bent badly: what is bent over a surface so broad that it folds over itself there, or reaches beyond what the surface has. */
import { MATRIX, PIECE, pieceOf, type PropBounds, type Shapes } from "../mesh";
import { corner, distanceTo, placesOf } from "./under";
import { say, metres, naming, props, type Check, type Finding } from "./finding";

/** A triangle is turned over where its normal points away from the surface's by more than rounding, as a cosine. */
const OVER = -0.02;
/** What hangs over a rim goes on flat there, as a shingle does over the eaves; it is wrong from this share of its places on. */
const MOST_OVER = 0.5;

/** How far from its foot a form folds, and how far it reaches beyond its piece, metres; for what does neither Infinity and 0. */
interface Trouble {
  foldsFrom: number;
  beyond: number;
}

export const bentBadly: Check = {
  name: "bent-badly",
  label: "Bent badly",
  find({ dressing, placements: p, box }) {
    const { shapes } = p;
    if (!shapes || !dressing.fit.bend || shapes.pieces.length === 0) return [];
    const troubles = new Map<number, Trouble>();
    const [folded, beyond]: [number[], number[]] = [[], []];
    let [nearest, most] = [Infinity, 0];
    shapes.entry.forEach((entry, i) => {
      if (entry < 0) return;
      const form = shapes.form[entry];
      let trouble = troubles.get(form);
      if (!trouble) troubles.set(form, (trouble = troubleOf(shapes, form, box(p.props[shapes.prop[form]]))));
      if (trouble.foldsFrom < Infinity) folded.push(i);
      if (trouble.beyond > 0) beyond.push(i);
      nearest = Math.min(nearest, trouble.foldsFrom);
      most = Math.max(most, trouble.beyond);
    });
    const found: Finding[] = [];
    if (folded.length > 0)
      found.push({
        check: "bent-badly",
        dressing: dressing.id,
        ...naming(p, folded),
        message: say`${props(folded.length)} ${folded.length === 1 ? "folds" : "fold"} over ${folded.length === 1 ? "itself" : "themselves"} from ${metres(nearest)} beside the middle on: the surface bends too much for ${folded.length === 1 ? "it" : "them"} there.`,
        mend: "stiff",
      });
    if (beyond.length > 0)
      found.push({
        check: "bent-badly",
        dressing: dressing.id,
        ...naming(p, beyond),
        worst: most,
        message: say`${props(beyond.length)} ${beyond.length === 1 ? "reaches" : "reach"} beyond the surface by up to ${metres(most)}, where there is nothing to bend over.`,
      });
    return found;
  },
};

function troubleOf(shapes: Shapes, form: number, bounds: PropBounds | undefined): Trouble {
  const piece = pieceOf(shapes, form);
  let foldsFrom = Infinity;
  for (let t = 0; t < piece.length; t += PIECE)
    if (isTurnedOver(piece, t)) foldsFrom = Math.min(foldsFrom, awayFrom(piece, t));
  if (!bounds || piece.length === 0) return { foldsFrom, beyond: 0 };
  const matrix = shapes.matrix.subarray(MATRIX * form, MATRIX * (form + 1));
  const away = placesOf(matrix, bounds).map(([left, ahead]) => distanceTo(piece, left, ahead));
  // What stands right on a rim may be on either side of it by rounding.
  const over = away.filter((far) => far > 0.01 * Math.max(...away)).length;
  return { foldsFrom, beyond: over > MOST_OVER * away.length ? Math.max(...away) : 0 };
}

/** Whether a triangle shows its other side once it is bent, compared with how it lies flat. */
function isTurnedOver(piece: Float32Array, t: number): boolean {
  const [a, b, c] = [0, 1, 2].map((k) => corner(t, k));
  const flat =
    (piece[b] - piece[a]) * (piece[c + 1] - piece[a + 1]) - (piece[b + 1] - piece[a + 1]) * (piece[c] - piece[a]);
  const [u, v] = [b, c].map((o) => [2, 3, 4].map((k) => piece[o + k] - piece[a + k]));
  const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const smooth = [5, 6, 7].map((k) => piece[a + k] + piece[b + k] + piece[c + k]);
  const along = normal.reduce((sum, x, k) => sum + x * smooth[k], 0);
  // Left is across up and ahead: what turns from left to ahead looks down.
  return -Math.sign(flat) * along < OVER * Math.hypot(...normal) * Math.hypot(...smooth);
}

const awayFrom = (piece: Float32Array, t: number): number =>
  Math.min(...[0, 1, 2].map((k) => Math.hypot(piece[corner(t, k)], piece[corner(t, k) + 1])));
