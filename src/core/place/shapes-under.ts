/** Bent and clipped forms under something that moves, turns and sizes them: one set of shapes out of several. */
import { multiply, rotate, type Quat, type Vec3 } from "../math";
import { PIECE, pieceOf, type Shapes } from "../mesh";

/** One placement that is bent or clipped. */
export interface ShapedUnder {
  /** Which placement of the whole it becomes, and the index of its prop there. */
  at: number;
  prop: number;
  /** What it looks like, counted from an origin. */
  shapes: Shapes;
  entry: number;
  origin: Vec3;
  /** What it stands under, of one size to all sides; null where it stays where it is. */
  under: { position: Vec3; rotation: Quat; scale: Vec3 } | null;
  /** Where it is something in what the form is of: the way from its coordinates into the form's frame, and a name for it. */
  inner?: { matrix: ArrayLike<number>; name: string };
}

/** @param n how many placements there are in the whole */
export function shapesUnder(n: number, all: readonly ShapedUnder[]): Shapes {
  const entry = new Int32Array(n).fill(-1);
  const frame = new Float32Array(7 * all.length);
  const form = new Uint32Array(all.length);
  const forms = new Forms();
  let off = Infinity;
  all.forEach(({ at, prop, shapes, entry: e, origin, under, inner }, m) => {
    entry[at] = m;
    const [x, y, z, qx, qy, qz, qw] = shapes.frame.subarray(7 * e, 7 * e + 7);
    const size = under?.scale[0] ?? 1;
    if (under) {
      const local: Vec3 = [size * (origin[0] + x), size * (origin[1] + y), size * (origin[2] + z)];
      const there = rotate(under.rotation, local);
      frame.set(
        there.map((value, k) => value + under.position[k]),
        7 * m,
      );
      frame.set(multiply(under.rotation, [qx, qy, qz, qw]), 7 * m + 3);
    } else frame.set(shapes.frame.subarray(7 * e, 7 * e + 7), 7 * m);
    form[m] = forms.of(shapes, shapes.form[e], prop, size, inner);
    off = Math.min(off, shapes.off);
  });
  return { entry, frame, form, off: Number.isFinite(off) ? off : 0, ...forms.done() };
}

/** Forms of several shapes at several sizes, each once. */
class Forms {
  readonly #known = new Map<Shapes, Map<string, number>>();
  readonly #prop: number[] = [];
  readonly #crease: number[] = [];
  readonly #matrix: number[] = [];
  readonly #planes: number[] = [];
  readonly #samples: Float32Array[] = [];
  readonly #pieces: Float32Array[] = [];
  readonly #pieceAt: number[] = [];
  readonly #knownPieces = new Map<Shapes, Map<string, readonly [from: number, to: number]>>();
  #triangles = 0;

  of(shapes: Shapes, form: number, prop: number, size: number, inner?: ShapedUnder["inner"]): number {
    let known = this.#known.get(shapes);
    if (!known) this.#known.set(shapes, (known = new Map()));
    const name = `${form} ${prop} ${size} ${inner?.name ?? ""}`;
    let found = known.get(name);
    if (found === undefined) known.set(name, (found = this.#add(shapes, form, prop, size, inner)));
    return found;
  }

  #add(shapes: Shapes, f: number, prop: number, size: number, inner: ShapedUnder["inner"]): number {
    const sized = (array: Float32Array, isLength: (k: number) => boolean) =>
      array.map((value, k) => (isLength(k) ? size * value : value));
    this.#prop.push(prop);
    this.#crease.push(shapes.crease[f]);
    const matrix = inner ? Float32Array.from(inner.matrix) : shapes.matrix.subarray(12 * f, 12 * f + 12);
    this.#matrix.push(...sized(matrix, () => true));
    this.#planes.push(...sized(shapes.planes.subarray(8 * f, 8 * f + 8), (k) => k % 4 === 3));
    const { sampleAt, samples } = shapes;
    this.#samples.push(sized(samples.subarray(8 * sampleAt[f], 8 * sampleAt[f + 1]), (k) => k % 8 < 4));
    this.#pieceAt.push(...this.#pieceOf(shapes, f, size, sized));
    return this.#prop.length - 1;
  }

  /** Where a form's piece begins and ends; those of one form and size share one. */
  #pieceOf(
    shapes: Shapes,
    f: number,
    size: number,
    sized: (array: Float32Array, isLength: (k: number) => boolean) => Float32Array,
  ) {
    let known = this.#knownPieces.get(shapes);
    if (!known) this.#knownPieces.set(shapes, (known = new Map()));
    const name = `${f} ${size}`;
    let found = known.get(name);
    if (!found) {
      // Of each corner left, ahead and its place are lengths; its normal is none.
      const piece = sized(pieceOf(shapes, f), (k) => k % 8 < 5);
      this.#pieces.push(piece);
      known.set(name, (found = [this.#triangles, (this.#triangles += piece.length / PIECE)]));
    }
    return found;
  }

  done(): Omit<Shapes, "entry" | "frame" | "form" | "off"> {
    return {
      prop: Uint16Array.from(this.#prop),
      matrix: Float32Array.from(this.#matrix),
      planes: Float32Array.from(this.#planes),
      crease: Float32Array.from(this.#crease),
      sampleAt: startsOf(this.#samples, 8),
      samples: together(this.#samples),
      pieceAt: Uint32Array.from(this.#pieceAt),
      pieces: together(this.#pieces),
    };
  }
}

function startsOf(arrays: readonly Float32Array[], width: number): Uint32Array {
  const out = new Uint32Array(arrays.length + 1);
  arrays.forEach((array, k) => (out[k + 1] = out[k] + array.length / width));
  return out;
}

function together(arrays: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(arrays.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const array of arrays) {
    out.set(array, at);
    at += array.length;
  }
  return out;
}
