/** *Which 64ths of a cell are near to a position in a cell about it*: looked up by where in its cell that is, roughly. */

/** Parts of a cell along an edge and in all: as many as two words have bits. */
export const ON_EDGE = 4;
export const PARTS = 64;
/** So many cells away lies all that can be nearer than a cell's diagonal. */
export const RING = 2;
/** Where positions are told apart so finely along an edge of their cells. */
const BUCKETS = 8;
const PER_CELL = 512;
/** The square of a cell's diagonal, less what rounding may take. */
const NEAR = 3 - 1e-9;

/** The cells that can hold something nearer to a cell than a cell's diagonal, the nearest first: what is in the way is mostly there. */
export const AROUND: readonly (readonly [number, number, number])[] = cellsAround();

/** @param x from the position's cell on, in cells, as are y and z */
export const bucketOf = (x: number, y: number, z: number): number =>
  (Math.floor(x * BUCKETS) * BUCKETS + Math.floor(y * BUCKETS)) * BUCKETS + Math.floor(z * BUCKETS);

/** Where the table begins for a position in one of {@link AROUND} and in a bucket of that cell. */
export const rowOf = (around: number, bucket: number): number => 2 * (around * PER_CELL + bucket);

let table: Int32Array | undefined;

/** 64 bits to each {@link rowOf}: 1 for parts that lie wholly near, wherever in its bucket the position is. */
export const nearness = (): Int32Array => (table ??= makeTable());

function makeTable(): Int32Array {
  const near = new Int32Array(2 * AROUND.length * PER_CELL);
  // Along an axis: the square of how far apart a bucket and a part can be, by the cell, the bucket and the part.
  const far = new Float64Array((2 * RING + 1) * BUCKETS * ON_EDGE);
  for (let entry = 0; entry < far.length; entry++) {
    const cell = Math.floor(entry / (BUCKETS * ON_EDGE)) - RING;
    const from = cell + (Math.floor(entry / ON_EDGE) % BUCKETS) / BUCKETS - (entry % ON_EDGE) / ON_EDGE;
    far[entry] = Math.max(Math.abs(from - 1 / ON_EDGE), Math.abs(from + 1 / BUCKETS)) ** 2;
  }
  for (let around = 0; around < AROUND.length; around++) {
    const [i, j, k] = AROUND[around].map((n) => (n + RING) * BUCKETS * ON_EDGE);
    for (let bucket = 0; bucket < PER_CELL; bucket++) {
      const x = i + ON_EDGE * Math.floor(bucket / (BUCKETS * BUCKETS));
      const y = j + ON_EDGE * (Math.floor(bucket / BUCKETS) % BUCKETS);
      const z = k + ON_EDGE * (bucket % BUCKETS);
      const row = rowOf(around, bucket);
      for (let part = 0; part < PARTS; part++) {
        const apart = far[x + (part & 3)] + far[y + ((part >> 2) & 3)] + far[z + (part >> 4)];
        if (apart < NEAR) near[row + (part >> 5)] |= 1 << (part & 31);
      }
    }
  }
  return near;
}

function cellsAround(): [number, number, number][] {
  const found: [number, number, number][] = [];
  for (let i = -RING; i <= RING; i++) {
    for (let j = -RING; j <= RING; j++) {
      for (let k = -RING; k <= RING; k++) {
        const gaps = [i, j, k].map((cells) => Math.max(0, Math.abs(cells) - 1));
        if (gaps[0] + gaps[1] + gaps[2] < 3 && (i !== 0 || j !== 0 || k !== 0)) found.push([i, j, k]);
      }
    }
  }
  const square = ([i, j, k]: [number, number, number]) => i * i + j * j + k * k;
  return found.sort((a, b) => square(a) - square(b));
}
