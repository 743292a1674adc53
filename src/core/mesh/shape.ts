/** A prop's mesh in the shape that a placement has: clipped, cut where it bends, and carried onto the bent way. */
import { onPiece } from "./piece";
import { MATRIX, pieceOf, PLANES, SAMPLE, samplesOf, type Shapes } from "./shapes";
import { clipped, sliced } from "./slice";
import type { Attribute, TriangleMesh } from "./mesh";

/**
 * The mesh of one form, in the frame that its entries place in the world. Normals and tangents are turned along; triangles
 * of a mirrored form are turned round, so that they show their front.
 */
export function shapedMesh(mesh: TriangleMesh, shapes: Shapes, form: number): TriangleMesh {
  let shaped = transformed(mesh, shapes.matrix.subarray(MATRIX * form, MATRIX * (form + 1)));
  const planes = shapes.planes.subarray(PLANES * form, PLANES * (form + 1));
  for (const o of [0, 4]) {
    const [a, b, c, d] = planes.subarray(o, o + 4);
    if (Number.isFinite(d)) shaped = clipped(shaped, planeNumbers(shaped.position, a, b, c), d);
  }
  const piece = pieceOf(shapes, form);
  if (piece.length > 0) return onPiece(shaped, piece, shapes.off);
  if (samplesOf(shapes, form) === 0) return shaped;
  const from = SAMPLE * shapes.sampleAt[form];
  return bentMesh(shaped, shapes.samples.subarray(from, SAMPLE * shapes.sampleAt[form + 1]));
}

function planeNumbers(position: Float32Array, a: number, b: number, c: number): Float64Array {
  const numbers = new Float64Array(position.length / 3);
  for (let i = 0; i < numbers.length; i++) {
    numbers[i] = a * position[3 * i] + b * position[3 * i + 1] + c * position[3 * i + 2];
  }
  return numbers;
}

/** The mesh with a matrix (12 numbers, rows first) worked into it. */
function transformed(mesh: TriangleMesh, m: ArrayLike<number>): TriangleMesh {
  const position = new Float32Array(mesh.position.length);
  for (let p = 0; p < position.length; p += 3) {
    const [x, y, z] = [mesh.position[p], mesh.position[p + 1], mesh.position[p + 2]];
    for (let k = 0; k < 3; k++) position[p + k] = m[4 * k] * x + m[4 * k + 1] * y + m[4 * k + 2] * z + m[4 * k + 3];
  }
  // Normals go by the cofactors, which is the inverse transpose but for a factor.
  const cofactor = (row: number, column: number): number => {
    const [r, s] = [(row + 1) % 3, (row + 2) % 3];
    const [c, d] = [(column + 1) % 3, (column + 2) % 3];
    return m[4 * r + c] * m[4 * s + d] - m[4 * r + d] * m[4 * s + c];
  };
  const cofactors = Array.from({ length: 9 }, (_, k) => cofactor(Math.floor(k / 3), k % 3));
  const turn = Array.from({ length: 9 }, (_, k) => m[4 * Math.floor(k / 3) + (k % 3)]);
  const determinant = turn[0] * cofactors[0] + turn[1] * cofactors[1] + turn[2] * cofactors[2];
  const normals = determinant < 0 ? cofactors.map((value) => -value) : cofactors;
  return {
    position,
    index: determinant < 0 ? turnedRound(mesh.index) : mesh.index,
    attributes: mesh.attributes.map((attribute) => {
      if (attribute.name === "NORMAL") return turnedBy(attribute, normals, 1);
      if (attribute.name === "TANGENT") return turnedBy(attribute, turn, Math.sign(determinant) || 1);
      return attribute;
    }),
  };
}

function turnedRound(index: Uint32Array): Uint32Array {
  const turned = index.slice();
  for (let t = 0; t + 2 < turned.length; t += 3) [turned[t + 1], turned[t + 2]] = [turned[t + 2], turned[t + 1]];
  return turned;
}

/** Directions turned by nine numbers, rows first, and brought to unit length; a fourth number is multiplied by `hand`. */
function turnedBy({ name, width, array }: Attribute, m: readonly number[], hand: number): Attribute {
  const out = array.slice();
  for (let o = 0; o < out.length; o += width) {
    const [x, y, z] = [array[o], array[o + 1], array[o + 2]];
    writeUnit(out, o, m[0] * x + m[1] * y + m[2] * z, m[3] * x + m[4] * y + m[5] * z, m[6] * x + m[7] * y + m[8] * z);
    if (width > 3) out[o + 3] *= hand;
  }
  return { name, width, array: out };
}

function writeUnit(out: Float32Array, o: number, x: number, y: number, z: number): void {
  const length = Math.hypot(x, y, z) || 1;
  out[o] = x / length;
  out[o + 1] = y / length;
  out[o + 2] = z / length;
}

/** The mesh, which lies along Z, carried onto the bent way that the samples tell; its triangles are cut at each of them. */
function bentMesh(mesh: TriangleMesh, samples: Float32Array): TriangleMesh {
  const along = (of: TriangleMesh) =>
    Float64Array.from({ length: of.position.length / 3 }, (_, i) => of.position[3 * i + 2]);
  const n = samples.length / SAMPLE;
  const cuts = Array.from({ length: n - 2 }, (_, k) => samples[SAMPLE * (k + 1)]);
  const fine = sliced(mesh, along(mesh), cuts);
  const way = new BentWay(samples);
  const position = fine.position.slice();
  const directions = fine.attributes.map(({ name, width, array }) => ({
    name,
    width,
    array: name === "NORMAL" || name === "TANGENT" ? array.slice() : array,
  }));
  for (let i = 0; i < position.length / 3; i++) {
    const p = 3 * i;
    way.goTo(fine.position[p], fine.position[p + 1], fine.position[p + 2]);
    position.set(way.position, p);
    for (const { name, width, array } of directions) {
      const o = width * i;
      if (name === "NORMAL") way.turn(array, o, array[o], array[o + 1], array[o + 2] / way.stretch);
      else if (name === "TANGENT") way.turn(array, o, array[o], array[o + 1], array[o + 2] * way.stretch);
    }
  }
  return { position, index: fine.index, attributes: directions };
}

/**
 * *A bent way*: where points beside the straight way come to lie. Between samples positions go by a cubic whose slopes are
 * those between the samples around, frames by the shortest turn.
 */
export class BentWay {
  readonly position = new Float64Array(3);
  /** How much longer the way is there, beside its middle. */
  stretch = 1;
  readonly #s: Float32Array;
  readonly #turn = new Float64Array(4);

  constructor(samples: Float32Array) {
    this.#s = samples;
  }

  goTo(x: number, y: number, z: number): void {
    const s = this.#s;
    const last = s.length / SAMPLE - 2;
    let k = 0;
    while (k < last && z > s[SAMPLE * (k + 1)]) k++;
    const a = SAMPLE * k;
    const b = a + SAMPLE;
    const span = s[b] - s[a] || 1;
    const t = (z - s[a]) / span;
    const before = k > 0 ? a - SAMPLE : a;
    const after = k < last ? b + SAMPLE : b;
    for (let axis = 1; axis <= 3; axis++) {
      const m = ((s[b + axis] - s[before + axis]) / (s[b] - s[before])) * span;
      const n = ((s[after + axis] - s[a + axis]) / (s[after] - s[a])) * span;
      const d = s[b + axis] - s[a + axis];
      this.position[axis - 1] =
        t <= 0
          ? s[a + axis] + t * m
          : t >= 1
            ? s[b + axis] + (t - 1) * n
            : s[a + axis] + t * (m + t * (3 * d - 2 * m - n + t * (m + n - 2 * d)));
    }
    const share = Math.max(0, Math.min(1, t));
    const same = s[a + 4] * s[b + 4] + s[a + 5] * s[b + 5] + s[a + 6] * s[b + 6] + s[a + 7] * s[b + 7] < 0 ? -1 : 1;
    let squared = 0;
    for (let c = 0; c < 4; c++) {
      this.#turn[c] = s[a + 4 + c] + share * (same * s[b + 4 + c] - s[a + 4 + c]);
      squared += this.#turn[c] ** 2;
    }
    for (let c = 0; c < 4; c++) this.#turn[c] /= Math.sqrt(squared);
    const [ax, ay, az] = turnedBeside(s, a + 4, x, y);
    const [bx, by, bz] = turnedBeside(s, b + 4, x, y);
    const forward = this.#rotated(0, 0, 1);
    const drift = (bx - ax) * forward[0] + (by - ay) * forward[1] + (bz - az) * forward[2];
    this.stretch = Math.max(0.05, 1 + drift / span);
    const beside = this.#rotated(x, y, 0);
    for (let c = 0; c < 3; c++) this.position[c] += beside[c];
  }

  /** Writes a direction, turned as the way is where it was last gone to, at unit length. */
  turn(out: Float32Array, o: number, x: number, y: number, z: number): void {
    const [a, b, c] = this.#rotated(x, y, z);
    writeUnit(out, o, a, b, c);
  }

  #rotated(x: number, y: number, z: number): [number, number, number] {
    return rotated(this.#turn, 0, x, y, z);
  }
}

const turnedBeside = (s: Float32Array, o: number, x: number, y: number) => rotated(s, o, x, y, 0);

/** A vector turned by the quaternion at `o`. */
function rotated(q: ArrayLike<number>, o: number, x: number, y: number, z: number): [number, number, number] {
  const [qx, qy, qz, qw] = [q[o], q[o + 1], q[o + 2], q[o + 3]];
  const tx = 2 * (qy * z - qz * y);
  const ty = 2 * (qz * x - qx * z);
  const tz = 2 * (qx * y - qy * x);
  return [x + qw * tx + qy * tz - qz * ty, y + qw * ty + qz * tx - qx * tz, z + qw * tz + qx * ty - qy * tx];
}
