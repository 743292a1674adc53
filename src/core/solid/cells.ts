/**
 * *Space in equal cells*, so that what is joined in one hangs on nothing but what reaches into it. Their walls lie at whole
 * numbers of a cell's side from a place where hardly anybody puts anything, so that walls and faces do not coincide.
 */
import { cutAt, type Triangulate } from "./cut";
import { boxOf, type ClosedMesh } from "./closed";

/** Where the walls lie, metres from the origin. */
const ASIDE = 0.0381966011;
/** So many triangles are done in one cell, faster than others could be told. */
const ALONE = 30_000;
/** In the mean a cell should hold no more triangles. */
const MOST = 8_000;

/** The place of a wall before the cell of a number, in single precision. */
export const wallAt = (cell: number, side: number): number => Math.fround(ASIDE + cell * side);

const cellOf = (at: number, side: number): number => {
  const cell = Math.floor((at - ASIDE) / side);
  // As the walls are rounded, so are places.
  return at < wallAt(cell, side) ? cell - 1 : at >= wallAt(cell + 1, side) ? cell + 1 : cell;
};

/** The side of cells for meshes, a power of two of metres; null where all of them may lie in one. */
export function sideFor(meshes: readonly ClosedMesh[]): number | null {
  const total = meshes.reduce((sum, { index }) => sum + index.length / 3, 0);
  if (total <= ALONE) return null;
  const boxes = meshes.map(({ position }) => boxOf(position));
  const across = [0, 1, 2].map((k) => {
    const [low, high] = [Math.min(...boxes.map((box) => box.low[k])), Math.max(...boxes.map((box) => box.high[k]))];
    return high - low;
  });
  const whole = Math.max(...across);
  let side = 2 ** Math.ceil(Math.log2(whole));
  for (let halvings = 0; halvings < 7; halvings++) {
    if (total / cellsUsed(meshes, side) <= MOST) return side;
    side /= 2;
  }
  return side;
}

/** How many cells hold the middle of any mesh's every so many vertices. */
function cellsUsed(meshes: readonly ClosedMesh[], side: number): number {
  const used = new Set<string>();
  for (const { position: P } of meshes)
    for (let p = 0; p < P.length; p += 48) used.add([P[p], P[p + 1], P[p + 2]].map((at) => cellOf(at, side)).join(" "));
  return used.size;
}

/** The parts of a mesh in the cells that it reaches into, by the names of cells: their numbers with a blank between. */
export function partsIn(mesh: ClosedMesh, side: number, triangulate: Triangulate): Map<string, ClosedMesh> {
  const parts = new Map<string, ClosedMesh>();
  const within = (part: ClosedMesh, axis: number, cell: readonly number[]): void => {
    if (axis === 3) return void parts.set(cell.join(" "), part);
    const { low, high } = boxOf(part.position);
    between(part, axis, cell, cellOf(low[axis], side), cellOf(high[axis], side));
  };
  const between = (part: ClosedMesh, axis: number, cell: readonly number[], first: number, last: number): void => {
    if (first >= last) return within(part, axis + 1, [...cell, first]);
    const middle = (first + last + 1) >> 1;
    const [before, beyond] = cutAt(part, axis, wallAt(middle, side), triangulate);
    if (before) between(before, axis, cell, first, middle - 1);
    if (beyond) between(beyond, axis, cell, middle, last);
  };
  within(mesh, 0, []);
  return parts;
}

/** The mesh without the faces that lie in the walls of its cell. */
export function withoutWalls({ position: P, index }: ClosedMesh, cell: string, side: number): ClosedMesh {
  const near = side * 1e-6;
  const walls = cell
    .split(" ")
    .flatMap((name, axis) => [0, 1].map((end) => ({ axis, at: wallAt(Number(name) + end, side) })));
  const kept: number[] = [];
  for (let t = 0; t < index.length; t += 3) {
    const isIn = walls.some(({ axis, at }) =>
      [0, 1, 2].every((k) => Math.abs(P[3 * index[t + k] + axis] - at) <= near),
    );
    if (!isIn) kept.push(index[t], index[t + 1], index[t + 2]);
  }
  return { position: P, index: Uint32Array.from(kept) };
}
