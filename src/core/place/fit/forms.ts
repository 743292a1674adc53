/** *Forms of props that are bent or clipped*, gathered: equal ones are made once. */
import { conjugate, rotate, type Quat, type Vec3 } from "../../math";
import { MATRIX, PIECE, PLANES, SAMPLE, type Shapes } from "../../mesh";
import type { Placed } from "../compose";

/** Numbers of forms are told apart in steps of this share of what the prop measures along the line. */
export const FINE = 1e-5;
/** Steps that stand for no end at all. */
const NO_END = 2 ** 31 - 1;
/** The frame that a form is told in: world coordinates, metres. */
export interface Foot {
  position: Vec3;
  rotation: Quat;
}

/** A form being put together: its matrix, its planes, its samples along a line, its piece of a surface. */
interface Form {
  prop: number;
  matrix: Float64Array;
  planes: Float64Array;
  samples: Float64Array;
  piece: Float64Array;
  /** How sharply that breaks at most, radians. */
  crease: number;
}

/** Planes that clip nothing. */
export const EVERYTHING = Float64Array.of(0, 0, 1, Infinity, 0, 0, 1, Infinity);
export const NOTHING = new Float64Array(0);

/** From the prop's own coordinates into the frame at its foot: what the placement does, and back out of that frame. */
export function matrixInto({ position, rotation }: Foot, placed: Placed, i: number, mirrored: boolean): Float64Array {
  const inverse = conjugate(rotation);
  const q = placed.rotation.subarray(4 * i, 4 * i + 4);
  const turn: Quat = [q[0], q[1], q[2], q[3]];
  const [sx, sy, sz] = placed.scale.subarray(3 * i, 3 * i + 3);
  const columns = [
    rotate(inverse, rotate(turn, [mirrored ? -sx : sx, 0, 0])),
    rotate(inverse, rotate(turn, [0, sy, 0])),
    rotate(inverse, rotate(turn, [0, 0, sz])),
    rotate(inverse, [
      placed.origin[0] + placed.position[3 * i] - position[0],
      placed.origin[1] + placed.position[3 * i + 1] - position[1],
      placed.origin[2] + placed.position[3 * i + 2] - position[2],
    ]),
  ];
  return Float64Array.from({ length: MATRIX }, (_, k) => columns[k % 4][Math.floor(k / 4)]);
}

/** *Forms as they are gathered*: equal ones are told by their numbers in fine steps. */
export class Forms {
  readonly #entry: Int32Array;
  readonly #frames: number[] = [];
  readonly #formOf: number[] = [];
  readonly #forms: Form[] = [];
  readonly #known = new Map<number, { index: number; steps: Int32Array }[]>();

  constructor(count: number) {
    this.#entry = new Int32Array(count).fill(-1);
  }

  add(i: number, form: Form, { position, rotation }: Foot, origin: readonly number[], fine: number): void {
    this.#entry[i] = this.#formOf.length;
    this.#formOf.push(this.#indexOf(form, Math.max(fine, 1e-9)));
    this.#frames.push(...position.map((x, k) => x - origin[k]), ...rotation);
  }

  #indexOf(form: Form, fine: number): number {
    const { matrix, planes, samples, piece } = form;
    const steps = new Int32Array(matrix.length + planes.length + samples.length + piece.length);
    let o = 0;
    for (const numbers of [matrix, planes, samples, piece])
      for (const value of numbers) steps[o++] = Math.max(-NO_END, Math.min(NO_END, Math.floor(value / fine + 0.5)));
    let name = form.prop;
    for (const step of steps) name = Math.imul(name ^ step, 0x01000193);
    const same = this.#known.get(name) ?? [];
    const found = same.find(
      ({ index, steps: others }) =>
        this.#forms[index].prop === form.prop &&
        others.length === steps.length &&
        others.every((step, k) => step === steps[k]),
    );
    if (found) return found.index;
    const index = this.#forms.length;
    this.#forms.push(form);
    this.#known.set(name, [...same, { index, steps }]);
    return index;
  }

  /** @param off see {@link Shapes.off} */
  finish(off: number): Shapes | null {
    const m = this.#formOf.length;
    if (m === 0) return null;
    const forms = this.#forms;
    const sampleAt = new Uint32Array(forms.length + 1);
    const pieceAt = new Uint32Array(2 * forms.length);
    let triangles = 0;
    forms.forEach(({ samples, piece }, k) => {
      sampleAt[k + 1] = sampleAt[k] + samples.length / SAMPLE;
      pieceAt[2 * k] = triangles;
      pieceAt[2 * k + 1] = triangles += piece.length / PIECE;
    });
    const shapes: Shapes = {
      entry: this.#entry,
      frame: Float32Array.from(this.#frames),
      form: Uint32Array.from(this.#formOf),
      prop: Uint16Array.from(forms, ({ prop }) => prop),
      matrix: new Float32Array(MATRIX * forms.length),
      planes: new Float32Array(PLANES * forms.length),
      sampleAt,
      samples: new Float32Array(SAMPLE * sampleAt[forms.length]),
      pieceAt,
      pieces: new Float32Array(PIECE * triangles),
      crease: Float32Array.from(forms, ({ crease }) => crease),
      off,
    };
    forms.forEach(({ matrix, planes, samples, piece }, k) => {
      shapes.matrix.set(matrix, MATRIX * k);
      shapes.planes.set(planes, PLANES * k);
      shapes.samples.set(samples, SAMPLE * sampleAt[k]);
      shapes.pieces.set(piece, PIECE * pieceAt[2 * k]);
    });
    return shapes;
  }
}
