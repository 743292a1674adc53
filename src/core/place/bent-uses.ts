/**
 * *Assemblies that are bent, taken apart*: each thing in one goes to where the surface or the line has it, and is bent there
 * itself or stands whole. It is the assembly's form that carries it, by the way from the thing's own coordinates into that.
 */
import { conjugate, multiply, quatAt, rotate, type Quat, type Vec3 } from "../math";
import { alongForm, entryOf, type AlongForm } from "../mesh";
import { matrixInto } from "./fit/forms";
import { FLAG } from "./slots";
import type { ShapedUnder } from "./shapes-under";
import type { Placements } from "./placements";

/** No more things than this are bent themselves; what comes after stands whole. */
const MOST_BENT = 20_000;

export class BentUses {
  readonly #outer: Placements;
  readonly #whole: boolean;
  /** By form. */
  readonly #ways = new Map<number, AlongForm | null>();
  readonly #sets = new Map<Placements, number>();
  #bent = 0;

  /**
   * @param outer the placements with the uses among them, some of which are shaped
   * @param whole whether each thing stands whole; else it is bent as well
   */
  constructor(outer: Placements, whole: boolean) {
    this.#outer = outer;
    this.#whole = whole;
  }

  bends = (i: number): boolean => entryOf(this.#outer.shapes, i) >= 0;

  /**
   * Carries things that stand as if their use were stiff to where it has them.
   *
   * @param out what they are written to, from `start` on
   * @param i their use
   * @param from what they are copies of, and which of it they are
   * @returns how they are bent
   */
  carried(out: Placements, start: number, i: number, from: Placements, members: readonly number[]): ShapedUnder[] {
    const shapes = this.#outer.shapes!;
    const entry = shapes.entry[i];
    const way = this.#wayOf(shapes.form[entry]);
    const [x, y, z, ...turn] = shapes.frame.subarray(7 * entry, 7 * entry + 7);
    const facing = turn as unknown as Quat;
    const foot = { position: [x + out.origin[0], y + out.origin[1], z + out.origin[2]] as Vec3, rotation: facing };
    const n = members.length;
    const matrices = Array.from(members, (_, k) =>
      matrixInto(foot, out, start + k, (out.flags[start + k] & FLAG.mirrored) !== 0),
    );
    if (way) {
      const flat = Float64Array.from({ length: 3 * n }, (_, c) => matrices[Math.floor(c / 3)][4 * (c % 3) + 3]);
      const { position, rotation } = way(flat);
      for (let k = 0; k < n; k++) {
        const o = start + k;
        const own = multiply(conjugate(facing), quatAt(out.rotation, o));
        const [px, py, pz] = rotate(facing, [position[3 * k], position[3 * k + 1], position[3 * k + 2]]);
        out.position.set([x + px, y + py, z + pz], 3 * o);
        out.rotation.set(multiply(facing, multiply(quatAt(rotation, k), own)), 4 * o);
      }
    }
    if (this.#whole || this.#bent + n > MOST_BENT) return [];
    this.#bent += n;
    const set = this.#setOf(from);
    return matrices.map((matrix, k): ShapedUnder => {
      const inner = { matrix, name: `${set} ${members[k]}` };
      return { at: start + k, prop: out.prop[start + k], shapes, entry, origin: [0, 0, 0], under: null, inner };
    });
  }

  #wayOf(form: number): AlongForm | null {
    let way = this.#ways.get(form);
    if (way === undefined) this.#ways.set(form, (way = alongForm(this.#outer.shapes!, form)));
    return way;
  }

  #setOf(from: Placements): number {
    const known = this.#sets.get(from);
    if (known === undefined) this.#sets.set(from, this.#sets.size);
    return known ?? this.#sets.size - 1;
  }
}
