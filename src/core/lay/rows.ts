/**
 * Rows of a mesh's texture coordinates: the line along which one of them has a value. It runs the way in which the other
 * one grows, so that all rows of a surface run alike.
 */
import { type WorldMesh } from "../mesh";
import type { LaidOnEdges } from "../line";
import type { Vec3 } from "../math";

/** A place where the row crosses an edge of the mesh. */
interface Crossing {
  point: Vec3;
  normal: Vec3;
  /** The other coordinate there, on either side of a seam. */
  other: number;
}

/** One triangle's piece of the row, from the edge where the other coordinate is less. */
interface Piece {
  from: number;
  to: number;
  begin: Crossing;
  end: Crossing;
}

interface Row {
  points: Vec3[];
  normals: Vec3[];
  closed: boolean;
}

/** Null where the mesh has no texture coordinates, or none of that value. */
export function rowTrack({ follow, value, at }: LaidOnEdges, ground: WorldMesh): Row | null {
  if (!ground.uv) return null;
  const pieces = piecesOf(ground, ground.uv, follow === "u" ? 0 : 1, value);
  const k = ground.stand?.scale ?? 1;
  const rows = rowsOf(pieces);
  if (rows.length === 0) return null;
  const place = ground.toWorld([k * at[0], k * at[1], k * at[2]]);
  const far = ({ points }: Row) =>
    Math.min(...points.map((p) => Math.hypot(p[0] - place[0], p[1] - place[1], p[2] - place[2])));
  return rows.reduce((best, row) => (far(row) < far(best) ? row : best));
}

/** In each triangle that the row goes through. */
function piecesOf(ground: WorldMesh, uv: Float32Array, which: 0 | 1, value: number): Piece[] {
  const { index, position: P, vertexNormals: N } = ground;
  const edges = ground.rest.edges;
  // A row through vertices would lie in no triangle, or in two: it passes them by a hair.
  const wanted = value + 1e-9;
  const pieces: Piece[] = [];
  for (let t = 0; 3 * t < index.length; t++) {
    const crossings: (Crossing & { edge: number })[] = [];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [index[3 * t + k], index[3 * t + ((k + 1) % 3)]];
      const [low, high] = [uv[2 * a + which] - wanted, uv[2 * b + which] - wanted];
      if (low > 0 === high > 0) continue;
      const share = low / (low - high);
      const between = (values: ArrayLike<number>): Vec3 =>
        [0, 1, 2].map(
          (axis) => values[3 * a + axis] + share * (values[3 * b + axis] - values[3 * a + axis]),
        ) as unknown as Vec3;
      const [x, y, z] = between(N);
      const length = Math.hypot(x, y, z) || 1;
      const rest = 1 - which;
      crossings.push({
        edge: edges.ofTriangle[3 * t + k],
        point: between(P),
        normal: [x / length, y / length, z / length],
        other: uv[2 * a + rest] + share * (uv[2 * b + rest] - uv[2 * a + rest]),
      });
    }
    if (crossings.length !== 2) continue;
    const [begin, end] = crossings[0].other <= crossings[1].other ? crossings : [crossings[1], crossings[0]];
    if (begin.edge !== end.edge) pieces.push({ from: begin.edge, to: end.edge, begin, end });
  }
  return pieces;
}

/** Pieces one behind the other. */
function rowsOf(pieces: readonly Piece[]): Row[] {
  const after = new Map(pieces.map((piece) => [piece.from, piece]));
  const ends = new Set(pieces.map(({ to }) => to));
  const left = new Set(pieces);
  const rows: Row[] = [];
  const follow = (first: Piece): void => {
    const row: Row = { points: [first.begin.point], normals: [first.begin.normal], closed: false };
    let piece: Piece | undefined = first;
    while (piece && left.has(piece)) {
      left.delete(piece);
      row.points.push(piece.end.point);
      row.normals.push(piece.end.normal);
      piece = after.get(piece.to);
    }
    if (piece === first) {
      row.points.pop();
      row.normals.pop();
      row.closed = true;
    }
    rows.push(row);
  };
  // Open rows from their beginnings; then what goes round, from where the coordinate is least.
  for (const piece of pieces) if (!ends.has(piece.from)) follow(piece);
  while (left.size > 0)
    follow([...left].reduce((least, piece) => (piece.begin.other < least.begin.other ? piece : least)));
  return rows;
}
