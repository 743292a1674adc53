/**
 * *What moves in a GLB*: nodes whose place, turn and size change get channels, thinned out; what has another shape gets morph
 * targets, one for each frame that is kept, which follow each other.
 */
import type { Animation, Buffer, Document, Mesh, Node, Primitive } from "@gltf-transform/core";
import { hexOf, type Key, type Placements } from "../place";
import { stands, type EvaluatedDressing } from "./evaluated";
import { thinned, type Thinning } from "./thin";
import type { MovedShape } from "../movers";

const PLACE: Thinning = { width: 3, tolerance: 1e-4 };
const TURN: Thinning = { width: 4, tolerance: 1e-3 };
const SIZE: Thinning = { width: 3, tolerance: 1e-4 };
/** What goes so many times as far from one frame to the next as before and after has leapt, and is not seen on the way. */
const LEAP = 8;
/** A leap lasts this share of a frame. */
const MOMENT = 1e-2;

export class Moving {
  readonly #document: Document;
  readonly #buffer: Buffer;
  readonly #times: Float32Array;
  #animation: Animation | null = null;
  /** The frames at which meshes have the shapes that they take on. */
  readonly #shaped = new Map<Mesh, readonly number[]>();

  constructor(document: Document, buffer: Buffer, times: Float32Array) {
    this.#document = document;
    this.#buffer = buffer;
    this.#times = times;
  }

  /** Has a node go through places, turns and sizes, one a frame: 3n, 4n, 3n. */
  through(
    node: Node,
    at: { translation: Float32Array; rotation: Float32Array; scale: Float32Array },
    comesAndGoes = false,
  ): void {
    upright(at.rotation);
    this.#channel(node, "translation", at.translation, PLACE, "LINEAR");
    this.#channel(node, "rotation", at.rotation, TURN, "LINEAR");
    this.#channel(node, "scale", at.scale, SIZE, comesAndGoes ? "STEP" : "LINEAR");
  }

  #channel(
    node: Node,
    path: "translation" | "rotation" | "scale",
    values: Float32Array,
    how: Thinning,
    interpolation: "LINEAR" | "STEP",
  ): void {
    const { width } = how;
    const first = [...values.subarray(0, width)];
    if (path === "rotation") node.setRotation(first as [number, number, number, number]);
    else if (path === "translation") node.setTranslation(first as [number, number, number]);
    else node.setScale(first as [number, number, number]);
    const n = this.#times.length;
    const kept = interpolation === "STEP" ? changes(values, n) : thinned(values, n, how);
    if (kept.length < 2) return;
    const times: number[] = [];
    const out: number[] = [];
    const put = (time: number, i: number) => {
      times.push(time);
      for (let k = 0; k < width; k++) out.push(values[width * i + k]);
    };
    for (const i of kept) {
      if (path === "translation" && leaps(values, n, i)) {
        const before = this.#times[i] - MOMENT * (this.#times[i] - this.#times[i - 1]);
        if (times[times.length - 1] < before) put(before, i - 1);
      }
      put(this.#times[i], i);
    }
    this.#sampled(
      node,
      path,
      Float32Array.from(times),
      Float32Array.from(out),
      width === 4 ? "VEC4" : "VEC3",
      interpolation,
    );
  }

  #sampled(
    node: Node,
    path: "translation" | "rotation" | "scale" | "weights",
    times: Float32Array<ArrayBuffer>,
    values: Float32Array<ArrayBuffer>,
    type: "SCALAR" | "VEC3" | "VEC4",
    interpolation: "LINEAR" | "STEP",
  ): void {
    const accessor = (kind: "SCALAR" | "VEC3" | "VEC4", array: Float32Array<ArrayBuffer>) =>
      this.#document.createAccessor().setType(kind).setArray(array).setBuffer(this.#buffer);
    const sampler = this.#document
      .createAnimationSampler()
      .setInput(accessor("SCALAR", times))
      .setOutput(accessor(type, values))
      .setInterpolation(interpolation);
    const channel = this.#document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler);
    this.#animation ??= this.#document.createAnimation("Scene");
    this.#animation.addSampler(sampler).addChannel(channel);
  }

  /**
   * Gives a mesh the shapes that whatever has it takes on, one a frame; those that lie between their neighbours are left out.
   *
   * @param shapes of all its primitives' vertices, one behind the other
   */
  shaped(mesh: Mesh, shapes: readonly MovedShape[]): void {
    if (this.#shaped.has(mesh)) return;
    const kept = shapesKept(shapes);
    this.#shaped.set(mesh, kept);
    let from = 0;
    for (const primitive of mesh.listPrimitives()) {
      const count = primitive.getAttribute("POSITION")!.getCount();
      this.#targets(primitive, kept.map((i) => shapes[i]), 3 * from); // prettier-ignore
      from += count;
    }
    mesh.setWeights(kept.map((_, k) => (k === 0 ? 1 : 0)));
  }

  /** Whether a mesh takes on shapes. */
  isShaped = (mesh: Mesh): boolean => this.#shaped.has(mesh);

  /** Gives a node its mesh, and has it take on the shapes of that. */
  dress(node: Node, mesh: Mesh): void {
    node.setMesh(mesh);
    const kept = this.#shaped.get(mesh) ?? [];
    const n = kept.length;
    if (n < 2) return;
    const weights = new Float32Array(n * n);
    for (let k = 0; k < n; k++) weights[k * n + k] = 1;
    const times = Float32Array.from(kept, (i) => this.#times[i]);
    this.#sampled(node, "weights", times, weights, "SCALAR", "LINEAR");
  }

  #targets(primitive: Primitive, shapes: readonly MovedShape[], from: number): void {
    const accessor = (array: Float32Array<ArrayBuffer>) =>
      this.#document.createAccessor().setType("VEC3").setArray(array).setBuffer(this.#buffer);
    // A copy of one that has taken some on has those.
    for (const target of primitive.listTargets()) primitive.removeTarget(target);
    for (const shape of shapes) {
      const target = this.#document.createPrimitiveTarget();
      for (const [name, values] of [
        ["POSITION", shape.position],
        ["NORMAL", shape.normal],
      ] as const) {
        // prettier-ignore
        const base = primitive.getAttribute(name);
        if (!base) continue;
        const delta = new Float32Array(3 * base.getCount());
        const own = [0, 0, 0];
        for (let v = 0; v < base.getCount(); v++) {
          base.getElement(v, own);
          for (let k = 0; k < 3; k++) delta[3 * v + k] = values[from + 3 * v + k] - own[k];
        }
        target.setAttribute(name, accessor(delta));
      }
      primitive.addTarget(target);
    }
  }
}

/** Gives a node its mesh, with the shapes that this takes on where anything moves. */
export function dress(node: Node, mesh: Mesh, moving: Moving | null): void {
  if (moving) moving.dress(node, mesh);
  else node.setMesh(mesh);
}

/** Shapes are compared by so many vertices, and may be off by so much, metres. */
const LOOKED_AT = 400;
const SHAPE = 2e-4;

/** Of shapes those that the others lie between. */
function shapesKept(shapes: readonly MovedShape[]): number[] {
  const n = shapes.length;
  const vertices = shapes[0].position.length / 3;
  const step = Math.max(1, Math.floor(vertices / LOOKED_AT));
  const between = (a: number, b: number): boolean => {
    for (let i = a + 1; i < b; i++) {
      const share = (i - a) / (b - a);
      for (let v = 0; v < vertices; v += step) {
        for (let k = 0; k < 3; k++) {
          const [x, y, z] = [a, i, b].map((at) => shapes[at].position[3 * v + k]);
          if (Math.abs(x + share * (z - x) - y) > SHAPE) return false;
        }
      }
    }
    return true;
  };
  const kept = [0];
  for (let last = 0; last < n - 1;) {
    let next = last + 1;
    while (next + 1 < n && between(last, next + 1)) next++;
    kept.push(next);
    last = next;
  }
  return kept;
}

/** Quaternions one after another turn the shorter way. */
function upright(Q: Float32Array): void {
  for (let q = 4; q < Q.length; q += 4) {
    const dot = Q[q] * Q[q - 4] + Q[q + 1] * Q[q - 3] + Q[q + 2] * Q[q - 2] + Q[q + 3] * Q[q - 1];
    if (dot < 0) for (let k = 0; k < 4; k++) Q[q + k] = -Q[q + k];
  }
}

/** The samples at which something is another than before. */
function changes(values: Float32Array, n: number): number[] {
  const kept = [0];
  for (let i = 1; i < n; i++) if ([0, 1, 2].some((k) => values[3 * i + k] !== values[3 * (i - 1) + k])) kept.push(i);
  return kept;
}

function leaps(P: Float32Array, n: number, i: number): boolean {
  const far = (a: number, b: number) =>
    a < 0 || b >= n ? 0 : Math.hypot(P[3 * b] - P[3 * a], P[3 * b + 1] - P[3 * a + 1], P[3 * b + 2] - P[3 * a + 2]);
  return i > 0 && far(i - 1, i) > LEAP * Math.max(1e-3, far(i - 2, i - 1), far(i, i + 1));
}

/** One placement through all frames. */
export interface Course {
  key: Key;
  /** The frame and the index in it where it stands first, by which it looks. */
  frame: number;
  index: number;
  /** Its index in each frame, -1 where it does not stand. */
  indices: Int32Array;
  translation: Float32Array;
  rotation: Float32Array;
  scale: Float32Array;
  comesAndGoes: boolean;
}

/** Whether a dressing's placements change from frame to frame at all. */
export const isStill = (frames: readonly Placements[]): boolean => frames.every((one) => one === frames[0]);

/** All placements that stand in any frame, with where they are in each, from the origin of the first frame. */
export function coursesOf({ placements: first }: EvaluatedDressing, frames: readonly Placements[]): Course[] {
  const courses = new Map<Key, Course>();
  const seen = new Map<Key, number>();
  frames.forEach((p, frame) => {
    for (let i = 0; i < p.count; i++) {
      if (!stands(p, i)) continue;
      let course = courses.get(p.key[i]);
      if (!course) {
        const n = frames.length;
        course = {
          key: p.key[i],
          ...{ frame, index: i, indices: new Int32Array(n).fill(-1) },
          translation: new Float32Array(3 * n),
          rotation: new Float32Array(4 * n),
          scale: new Float32Array(3 * n),
          comesAndGoes: false,
        };
        courses.set(p.key[i], course);
      }
      course.indices[frame] = i;
      for (let k = 0; k < 3; k++) {
        course.translation[3 * frame + k] = p.position[3 * i + k] + p.origin[k] - first.origin[k];
        course.scale[3 * frame + k] = p.scale[3 * i + k];
      }
      course.rotation.set(p.rotation.subarray(4 * i, 4 * i + 4), 4 * frame);
      seen.set(p.key[i], (seen.get(p.key[i]) ?? 0) + 1);
    }
  });
  for (const course of courses.values())
    if (seen.get(course.key) !== frames.length) holdWhereMissing(course, frames.length);
  return [...courses.values()];
}

/** Where it does not stand it has no size, and stays where it was, or where it comes in. */
function holdWhereMissing(course: Course, n: number): void {
  course.comesAndGoes = true;
  const { translation: T, rotation: Q, scale: S } = course;
  const stood = (i: number) => S[3 * i] !== 0 || S[3 * i + 1] !== 0 || S[3 * i + 2] !== 0;
  const take = (to: number, from: number) => {
    T.copyWithin(3 * to, 3 * from, 3 * from + 3);
    Q.copyWithin(4 * to, 4 * from, 4 * from + 4);
  };
  for (let i = 1; i < n; i++) if (!stood(i) && (stood(i - 1) || Q[4 * (i - 1) + 3] !== 0)) take(i, i - 1);
  for (let i = n - 2; i >= 0; i--) {
    const empty = [0, 1, 2, 3].every((k) => Q[4 * i + k] === 0);
    if (empty) take(i, i + 1);
  }
}

export const nodeName = (mesh: Mesh, key: Key): string => `${mesh.getName()} ${hexOf(key)}`;
