/** Bends props along their line, their length kept, and clips them at its open ends. */
import { conjugate, rotate, type Quat } from "../../math";
import { FLAG, NO_PROP, type Slots } from "../slots";
import { MATRIX, PLANES, SAMPLE, type Shapes } from "../../mesh";
import { Profiles, type BentPath } from "./profile";
import type { GuideLine } from "../../line";
import type { Placed, Parts } from "../compose";
import type { Moves } from "../frames";
import type { Fit } from "./schema";

/** Numbers of forms are told apart in steps of this share of what the prop measures along the line. */
const FINE = 1e-5;
/** Steps that stand for no end at all. */
const NO_END = 2 ** 31 - 1;
/** What sticks out past an end by no more than this share of itself is let be. */
const SLACK = 1e-5;

/** A form being put together: its matrix, its planes, its samples. */
interface Form {
  prop: number;
  matrix: Float64Array;
  planes: Float64Array;
  samples: Float64Array;
}

/**
 * The shapes of all placements that are bent or clipped, or null where none is. What lies past an end altogether is marked
 * as blank in `flags`.
 *
 * @param slots with the places that their props have in the end
 */
export function shapesOf(
  { bend, clip }: Pick<Fit, "bend" | "clip">,
  lines: readonly GuideLine[],
  slots: Slots,
  { hold }: Pick<Parts, "hold">,
  moves: Moves,
  placed: Placed,
  flags: Uint16Array,
): Shapes | null {
  if (!bend && !clip) return null;
  const gathered = new Forms(slots.count);
  const profiles = new Map<number, Profiles>();
  for (let i = 0; i < slots.count; i++) {
    const prop = slots.prop[i];
    if (prop === NO_PROP || flags[i] & FLAG.blank) continue;
    const line = lines[slots.line[i]];
    const along = slots.at[i] + moves.offset[0] + (moves.shift[0] ? moves.shift[0][i] : 0);
    const [behind, before] = [placed.reach[2 * i], placed.reach[2 * i + 1]];
    const { closed, length } = line.curve;
    const slack = SLACK * (behind + before);
    const cuts = clip && !closed && length > 0 && (along - behind < -slack || along + before > length + slack);
    if (cuts && (along + before <= slack || along - behind >= length - slack)) {
      flags[i] |= FLAG.blank;
      continue;
    }
    // What spans a corner stays stiff.
    const span = slots.span && !Number.isNaN(slots.span[2 * i]) ? slots.span.subarray(2 * i, 2 * i + 2) : null;
    const bends = bend && !span;
    if (!bends && !cuts) continue;
    let own = profiles.get(slots.line[i]);
    if (!own) profiles.set(slots.line[i], (own = new Profiles(line, hold.up)));
    const across = moves.offset[1] + moves.rows[slots.row[i]] + (moves.shift[1] ? moves.shift[1][i] : 0);
    const up = moves.offset[2] + (moves.shift[2] ? moves.shift[2][i] : 0);
    const way = own.at(along, across, up, behind, before, span);
    const samples = bends ? own.samples(way, FINE * (behind + before)) : new Float64Array(0);
    if (samples.length === 0 && !cuts) continue;
    const matrix = matrixInto(way, placed, i, (flags[i] & FLAG.mirrored) !== 0);
    const planes = cuts ? own.planes(way, samples.length > 0) : EVERYTHING;
    gathered.add(i, { prop, matrix, planes, samples }, way, placed.origin, FINE * (behind + before));
  }
  return gathered.finish();
}

const EVERYTHING = Float64Array.of(0, 0, 1, Infinity, 0, 0, 1, Infinity);

/** From the prop's own coordinates into the line's frame at the foot: what the placement does, and back out of that frame. */
function matrixInto({ position, rotation }: BentPath, placed: Placed, i: number, mirrored: boolean): Float64Array {
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
class Forms {
  readonly #entry: Int32Array;
  readonly #frames: number[] = [];
  readonly #formOf: number[] = [];
  readonly #forms: Form[] = [];
  readonly #known = new Map<number, { index: number; steps: Int32Array }[]>();

  constructor(count: number) {
    this.#entry = new Int32Array(count).fill(-1);
  }

  add(i: number, form: Form, { position, rotation }: BentPath, origin: readonly number[], fine: number): void {
    this.#entry[i] = this.#formOf.length;
    this.#formOf.push(this.#indexOf(form, Math.max(fine, 1e-9)));
    this.#frames.push(...position.map((x, k) => x - origin[k]), ...rotation);
  }

  #indexOf(form: Form, fine: number): number {
    const numbers = [...form.matrix, ...form.planes, ...form.samples];
    const steps = Int32Array.from(numbers, (value) =>
      Math.max(-NO_END, Math.min(NO_END, Math.floor(value / fine + 0.5))),
    );
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

  finish(): Shapes | null {
    const m = this.#formOf.length;
    if (m === 0) return null;
    const forms = this.#forms;
    const sampleAt = new Uint32Array(forms.length + 1);
    forms.forEach(({ samples }, k) => (sampleAt[k + 1] = sampleAt[k] + samples.length / SAMPLE));
    const shapes: Shapes = {
      entry: this.#entry,
      frame: Float32Array.from(this.#frames),
      form: Uint32Array.from(this.#formOf),
      prop: Uint16Array.from(forms, ({ prop }) => prop),
      matrix: new Float32Array(MATRIX * forms.length),
      planes: new Float32Array(PLANES * forms.length),
      sampleAt,
      samples: new Float32Array(SAMPLE * sampleAt[forms.length]),
    };
    forms.forEach(({ matrix, planes, samples }, k) => {
      shapes.matrix.set(matrix, MATRIX * k);
      shapes.planes.set(planes, PLANES * k);
      shapes.samples.set(samples, SAMPLE * sampleAt[k]);
    });
    return shapes;
  }
}
