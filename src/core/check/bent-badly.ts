/**
 * Bent badly: what is bent over a surface so broad that it folds over itself there, or reaches beyond what the surface has; over
 * a crease, or over a tear of the sheet.
 */
import { cornerOf, MATRIX, Piece, PIECE, pieceOf, type PropBounds, type Shapes } from "../mesh";
import { placesOf } from "../place";
import { distancesTo, tearUnder } from "./under";
import { say, metres, naming, props, type Check, type Finding } from "./finding";

/** A triangle is turned over where its normal points away from the surface's by more than rounding, as a cosine. */
const OVER = -0.02;
/** What hangs over a rim goes on flat there, as a shingle does over the eaves; it is wrong from this share of its places on. */
const MOST_OVER = 0.5;

/** Facets that meet by more than this, radians, meet in a crease; by less they may be those of a round thing. */
const CREASE = (40 * Math.PI) / 180;
const degrees = (radians: number): string => `${Math.round((180 * radians) / Math.PI)}°`;

/** What is wrong with a form; what is not is 0, or Infinity for where it folds. */
interface Trouble {
  /** How far from its foot it folds, metres. */
  foldsFrom: number;
  /** How far it reaches beyond its piece, metres. */
  beyond: number;
  /** How sharp the crease under it is, radians. */
  crease: number;
  /** By how much it is pulled apart, metres. */
  tear: number;
}

export const bentBadly: Check = {
  name: "bent-badly",
  label: "Bent badly",
  find({ dressing, placements: p, box }) {
    const { shapes } = p;
    if (!shapes || !dressing.fit.bend || shapes.pieces.length === 0) return [];
    const troubles = new Map<number, Trouble>();
    const [folded, beyond, creased, torn]: number[][] = [[], [], [], []];
    const worst: Trouble = { foldsFrom: Infinity, beyond: 0, crease: 0, tear: 0 };
    shapes.entry.forEach((entry, i) => {
      if (entry < 0) return;
      const form = shapes.form[entry];
      let trouble = troubles.get(form);
      if (!trouble) troubles.set(form, (trouble = troubleOf(shapes, form, box(p.props[shapes.prop[form]]))));
      if (trouble.foldsFrom < Infinity) folded.push(i);
      if (trouble.beyond > 0) beyond.push(i);
      if (trouble.crease > 0) creased.push(i);
      if (trouble.tear > 0) torn.push(i);
      worst.foldsFrom = Math.min(worst.foldsFrom, trouble.foldsFrom);
      for (const name of ["beyond", "crease", "tear"] as const) worst[name] = Math.max(worst[name], trouble[name]);
    });
    const found: Finding[] = [];
    const tell = (members: readonly number[], said: (one: boolean) => Finding["message"], more: Partial<Finding>) => {
      if (members.length > 0)
        found.push({ check: "bent-badly", dressing: dressing.id, ...naming(p, members), message: said(members.length === 1), ...more }); // prettier-ignore
    };
    tell(
      folded,
      (one) =>
        say`${props(folded.length)} ${one ? "folds over itself" : "fold over themselves"} from ${metres(worst.foldsFrom)} beside the middle on: the surface bends too much for ${one ? "it" : "them"} there.`,
      { mend: "stiff" },
    );
    tell(
      beyond,
      (one) =>
        say`${props(beyond.length)} ${one ? "reaches" : "reach"} beyond the surface by up to ${metres(worst.beyond)}, where there is nothing to bend over.`,
      { worst: worst.beyond },
    );
    tell(
      creased,
      (one) =>
        say`${props(creased.length)} ${one ? "is" : "are"} bent over a crease of up to ${degrees(worst.crease)}, and ${one ? "breaks" : "break"} there.`,
      { mend: "stiff", orElse: "smooth" },
    );
    tell(
      torn,
      (one) =>
        say`${props(torn.length)} ${one ? "lies" : "lie"} over a tear of the sheet, which pulls ${one ? "it" : "them"} apart by up to ${metres(worst.tear)}.`,
      { worst: worst.tear, mend: "stiff" },
    );
    return found;
  },
};

function troubleOf(shapes: Shapes, form: number, bounds: PropBounds | undefined): Trouble {
  const piece = pieceOf(shapes, form);
  let foldsFrom = Infinity;
  for (let t = 0; t < piece.length; t += PIECE)
    if (isTurnedOver(piece, t)) foldsFrom = Math.min(foldsFrom, awayFrom(piece, t));
  const crease = shapes.crease[form] > CREASE ? shapes.crease[form] : 0;
  if (!bounds || piece.length === 0) return { foldsFrom, beyond: 0, crease, tear: 0 };
  const places = placesOf(shapes.matrix.subarray(MATRIX * form, MATRIX * (form + 1)), bounds);
  const bent = new Piece(piece);
  const away = distancesTo(piece, bent, places);
  // What stands right on a rim may be on either side of it by rounding.
  const over = away.filter((far) => far > 0.01 * Math.max(...away)).length;
  const beyond = over > MOST_OVER * away.length ? Math.max(...away) : 0;
  return { foldsFrom, beyond, crease, tear: tearUnder(bent, places, away) };
}

/** Whether a triangle shows its other side once it is bent, compared with how it lies flat. */
function isTurnedOver(piece: Float32Array, t: number): boolean {
  const [a, b, c] = [cornerOf(t, 0), cornerOf(t, 1), cornerOf(t, 2)];
  const flat =
    (piece[b] - piece[a]) * (piece[c + 1] - piece[a + 1]) - (piece[b + 1] - piece[a + 1]) * (piece[c] - piece[a]);
  const [ux, uy, uz] = [piece[b + 2] - piece[a + 2], piece[b + 3] - piece[a + 3], piece[b + 4] - piece[a + 4]];
  const [vx, vy, vz] = [piece[c + 2] - piece[a + 2], piece[c + 3] - piece[a + 3], piece[c + 4] - piece[a + 4]];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const smooth = (k: number): number => piece[a + k] + piece[b + k] + piece[c + k];
  const [sx, sy, sz] = [smooth(5), smooth(6), smooth(7)];
  // Left is across up and ahead: what turns from left to ahead looks down.
  const along = -Math.sign(flat) * (nx * sx + ny * sy + nz * sz);
  return along < 0 && along < OVER * Math.sqrt((nx * nx + ny * ny + nz * nz) * (sx * sx + sy * sy + sz * sz));
}

const awayFrom = (piece: Float32Array, t: number): number =>
  Math.min(...[0, 1, 2].map((k) => Math.hypot(piece[cornerOf(t, k)], piece[cornerOf(t, k) + 1])));
