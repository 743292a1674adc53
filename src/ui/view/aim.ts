/** *What lies under the pointer*: ground, knots, lines, placements. */
import type { Key } from "@/core/place";
import {
  Matrix4,
  Plane,
  Raycaster,
  Vector2,
  Vector3,
  type Camera,
  type Mesh,
  type Object3D,
  type Scene as ThreeScene,
} from "three";
import type { MeshBVH } from "three-mesh-bvh";
import type { DrawnLine, Line } from "@/core/line";
import { shareOnSegment, type Vec3 } from "@/core/math";
import type { PropBounds } from "@/core/mesh";
import type { ShownResult } from "@/engine/engine";
import { millimetre, drawnLine, wholeOf } from "../state";
import type { Axis } from "./move-state";
import { fitted } from "../assets";
import { pick } from "./placed";
import { SURFACES } from "./Surfaces";

/** Ground is looked for no farther away than this, metres. */
const FAR = 2000;

/** Ground is looked for straight below from so high, metres. */
const HIGH = 100_000;

/** Rays that meet a level plane at less than this sine are too flat to say where. */
const FLAT = 0.03;

const rounded = (v: Vector3): Vec3 => [millimetre(v.x), millimetre(v.y), millimetre(v.z)];

/** A place of a surface, and the unit normal of the triangle there, on the side that is looked at. */
export interface Under {
  point: Vec3;
  normal: Vec3;
}

type Wanted = (surface: string, isGround: boolean) => boolean;

export class Aim {
  readonly #element: HTMLElement;
  readonly #camera: Camera;
  readonly #scene: ThreeScene;
  readonly #caster = new Raycaster();
  /** The pointer in pixels of the element. */
  #x = 0;
  #y = 0;

  constructor(element: HTMLElement, camera: Camera, scene: ThreeScene) {
    this.#element = element;
    this.#camera = camera;
    this.#scene = scene;
    this.#caster.far = FAR;
    this.#caster.firstHitOnly = true;
  }

  at(event: { clientX: number; clientY: number }): void {
    const box = this.#element.getBoundingClientRect();
    this.#x = event.clientX - box.left;
    this.#y = event.clientY - box.top;
    const point = new Vector2((this.#x / box.width) * 2 - 1, 1 - (this.#y / box.height) * 2);
    this.#caster.setFromCamera(point, this.#camera);
  }

  /** The point of the nearest surface, or else of the level ground at height zero. */
  ground(): Vec3 | null {
    const hit = this.#surface((object) => object.parent?.userData.ground === true);
    return hit ? rounded(hit.point) : this.#onPlane(new Plane(new Vector3(0, 1, 0), 0));
  }

  /** The ground straight below or above a place seen from above, or height zero where there is none. */
  below(x: number, z: number): { point: Vec3; surface: string | null } {
    const { far } = this.#caster;
    const kept = this.#caster.ray.clone();
    this.#caster.ray.set(new Vector3(x, HIGH, z), new Vector3(0, -1, 0));
    this.#caster.far = 2 * HIGH;
    const hit = this.#surface((object) => object.parent?.userData.ground === true);
    this.#caster.ray.copy(kept);
    this.#caster.far = far;
    const surface = (hit?.object.parent?.userData.surface as string | undefined) ?? null;
    return { point: [x, hit ? millimetre(hit.point.y) : 0, z], surface };
  }

  /** The ground in the middle of what is seen. */
  middle(): Vec3 | null {
    const box = this.#element.getBoundingClientRect();
    this.at({ clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 });
    return this.ground();
  }

  /** Where the view looks, seen from above: x and z. */
  facing(): [x: number, z: number] {
    const way = this.#camera.getWorldDirection(new Vector3());
    return [way.x, way.z];
  }

  /** The ground that {@link ground} is a point of; null where that is no surface. */
  groundSurface(): string | null {
    const hit = this.#surface((object) => object.parent?.userData.ground === true);
    return (hit?.object.parent?.userData.surface as string | undefined) ?? null;
  }

  /** The point at the height of `from`. */
  level(from: Vec3): Vec3 | null {
    const point = this.#onPlane(new Plane(new Vector3(0, 1, 0), -from[1]));
    return point && [point[0], from[1], point[2]];
  }

  /** The point as far away as `from`, square to the way in which one looks. */
  across(from: Vec3): Vec3 | null {
    const way = this.#camera.getWorldDirection(new Vector3());
    return this.#onPlane(new Plane().setFromNormalAndCoplanarPoint(way, new Vector3(...from)));
  }

  /** The point straight above or below `from` that is nearest to the pointer. */
  upright(from: Vec3): Vec3 | null {
    const { direction } = this.#caster.ray;
    const facing = new Vector3(direction.x, 0, direction.z);
    if (facing.lengthSq() < 1e-9) return null;
    const plane = new Plane().setFromNormalAndCoplanarPoint(facing.normalize(), new Vector3(...from));
    const hit = this.#caster.ray.intersectPlane(plane, new Vector3());
    return hit && [from[0], millimetre(hit.y), from[2]];
  }

  /** The point on the line through `from` along an axis that is nearest to the pointer. */
  axis(from: Vec3, axis: Axis): Vec3 | null {
    return this.along(from, [axis === "x" ? 1 : 0, axis === "y" ? 1 : 0, axis === "z" ? 1 : 0]);
  }

  /** As {@link axis}, along any unit direction. */
  along(from: Vec3, direction: Vec3): Vec3 | null {
    const way = new Vector3(...direction);
    if (Math.abs(this.#caster.ray.direction.dot(way)) > 0.999) return null;
    const start = new Vector3(...from);
    const ends = [-FAR, FAR].map((k) => start.clone().addScaledVector(way, k));
    const nearest = new Vector3();
    this.#caster.ray.distanceSqToSegment(ends[0], ends[1], undefined, nearest);
    return rounded(nearest);
  }

  /** The arc length at which a line passes the pointer, within so many pixels. */
  placeOn({ points, at }: DrawnLine, within: number): number | null {
    let best: number | null = null;
    let least = within;
    let before: readonly [number, number] | null = null;
    points.forEach((point, i) => {
      const pixel = this.#pixel(point);
      if (before && pixel) {
        const [dx, dy] = [pixel[0] - before[0], pixel[1] - before[1]];
        const share = shareOnSegment(this.#x - before[0], this.#y - before[1], 0, dx, dy, 0);
        const distance = Math.hypot(this.#x - before[0] - share * dx, this.#y - before[1] - share * dy);
        if (distance < least) {
          least = distance;
          best = at[i - 1] + share * (at[i] - at[i - 1]);
        }
      }
      before = pixel;
    });
    return best;
  }

  /** Whether a position lies in a box of the window, in pixels of it. */
  inBox(position: Vec3, box: { x: number; y: number; toX: number; toY: number }): boolean {
    const pixel = this.#pixel(position);
    if (!pixel) return false;
    const { left, top } = this.#element.getBoundingClientRect();
    const [x, y] = [pixel[0] + left, pixel[1] + top];
    const between = (value: number, a: number, b: number) => value >= Math.min(a, b) && value <= Math.max(a, b);
    return between(x, box.x, box.toX) && between(y, box.y, box.toY);
  }

  /** The index of the position nearest to the pointer on screen, within so many pixels. */
  nearest(positions: readonly Vec3[], within: number): number | null {
    let best: number | null = null;
    let least = within;
    positions.forEach((position, i) => {
      const pixel = this.#pixel(position);
      const distance = pixel ? Math.hypot(pixel[0] - this.#x, pixel[1] - this.#y) : Infinity;
      if (distance <= least) {
        least = distance;
        best = i;
      }
    });
    return best;
  }

  /** The id of the line nearest to the pointer on screen, within so many pixels. */
  line(lines: readonly Line[], within: number): string | null {
    return lines.find((line) => this.placeOn(drawnLine(line), within) !== null)?.id ?? null;
  }

  /** The placement that the pointer is on, unless a surface hides it. */
  placement(
    results: ReadonlyMap<string, ShownResult>,
    bounds: ReadonlyMap<string, PropBounds>,
  ): { dressing: string; key: Key } | null {
    let best: { dressing: string; key: Key; distance: number } | null = null;
    for (const [dressing, result] of results) {
      const { placements, apart, drawn } = result;
      const hit = pick(wholeOf(result), drawn, bounds, this.#caster.ray);
      if (hit && (!best || hit.distance < best.distance)) {
        // Whatever of an assembly is hit, it is the assembly that is meant.
        const index = apart ? apart.of[hit.index] : hit.index;
        best = { dressing, key: placements.key[index], distance: hit.distance };
      }
    }
    if (!best) return null;
    const wall = this.#surface((object) => object.parent?.userData.outline !== true);
    return wall && wall.distance < best.distance - 0.05 ? null : { dressing: best.dressing, key: best.key };
  }

  /** The point of a surface that the pointer is on, whatever else stands before it; null where it misses it. */
  on(id: string): Vec3 | null {
    const hit = this.#surface((object) => object.parent?.userData.surface === id);
    return hit ? rounded(hit.point) : null;
  }

  /** The texture coordinates of a surface where the pointer is on it; null where it has none. */
  uvOn(id: string): [number, number] | null {
    const uv = this.#surface((object) => object.parent?.userData.surface === id)?.uv;
    return uv ? [uv.x, uv.y] : null;
  }

  /** Where the pointer is on whatever surface it is on: with the texture coordinates there and the corners of the triangle. */
  met(): { surface: string; point: Vec3; uv: [number, number] | null; corners: Vec3[] } | null {
    const hit = this.#surface((object) => object.parent?.userData.outline !== true);
    const surface = hit?.object.parent?.userData.surface as string | undefined;
    if (!hit?.face || surface === undefined) return null;
    const position = (hit.object as Mesh).geometry.getAttribute("position");
    const { a, b, c } = hit.face;
    const corners = [a, b, c].map((v) => {
      const { x, y, z } = new Vector3().fromBufferAttribute(position, v).applyMatrix4(hit.object.matrixWorld);
      return [x, y, z] as Vec3;
    });
    const { x, y, z } = hit.point;
    return { surface, point: [x, y, z], uv: hit.uv ? [hit.uv.x, hit.uv.y] : null, corners };
  }

  /** Where the pointer is on a surface that is wanted. */
  under(wanted: Wanted): (Under & { surface: string }) | null {
    const hit = this.#surface(isWanted(wanted));
    if (!hit?.face) return null;
    const normal = hit.face.normal.clone().transformDirection(hit.object.matrixWorld);
    if (normal.dot(this.#caster.ray.direction) > 0) normal.negate();
    return {
      surface: hit.object.parent?.userData.surface as string,
      point: [hit.point.x, hit.point.y, hit.point.z],
      normal: [normal.x, normal.y, normal.z],
    };
  }

  /** The same from a place in a direction, no farther than so many metres. */
  cast(wanted: Wanted, from: Vec3, direction: Vec3, far: number): (Under & { surface: string }) | null {
    const kept = [this.#caster.far, this.#caster.ray.clone()] as const;
    this.#caster.ray.set(new Vector3(...from), new Vector3(...direction));
    this.#caster.far = far;
    const under = this.under(wanted);
    this.#caster.far = kept[0];
    this.#caster.ray.copy(kept[1]);
    return under;
  }

  /** The id of the surface that the pointer is on, or null; of an outline only where nothing else is. */
  surface(): string | null {
    const solid = (object: Object3D) => object.parent?.userData.outline !== true;
    const hit = this.#surface(solid) ?? this.#surface(() => true);
    return (hit?.object.parent?.userData.surface as string | undefined) ?? null;
  }

  /** The place of any surface that is nearest to a point. */
  nearestOnSurfaces(point: Vec3): { surface: string; point: Vec3; uv: null } | null {
    let best: { surface: string; point: Vec3; uv: null } | null = null;
    let least = Infinity;
    const target = { point: new Vector3(), distance: 0, faceIndex: 0 };
    for (const mesh of this.#meshes((object) => object.parent?.userData.outline !== true)) {
      fitted(mesh.geometry);
      const own = mesh.worldToLocal(new Vector3(...point));
      if (!(mesh.geometry.boundsTree as MeshBVH).closestPointToPoint(own, target)) continue;
      const { x, y, z } = mesh.localToWorld(target.point.clone());
      const far = Math.hypot(x - point[0], y - point[1], z - point[2]);
      if (far >= least) continue;
      least = far;
      best = { surface: mesh.parent?.userData.surface as string, point: [x, y, z], uv: null };
    }
    return best;
  }

  #meshes(wanted: (object: Object3D) => boolean): Mesh[] {
    const meshes: Mesh[] = [];
    this.#scene.getObjectByName(SURFACES)?.traverse((object) => {
      if ("isMesh" in object && object.parent?.userData.surface !== undefined && wanted(object))
        meshes.push(object as Mesh);
    });
    return meshes;
  }

  #surface(wanted: (object: Object3D) => boolean) {
    return this.#caster.intersectObjects(this.#meshes(wanted), false)[0];
  }

  #onPlane(plane: Plane): Vec3 | null {
    const { ray } = this.#caster;
    if (Math.abs(ray.direction.dot(plane.normal)) < FLAT) return null;
    const hit = ray.intersectPlane(plane, new Vector3());
    return hit && hit.distanceTo(ray.origin) < FAR ? rounded(hit) : null;
  }

  /** The pointer in pixels of the element. */
  get pixel(): readonly [number, number] {
    return [this.#x, this.#y];
  }

  /** Where one looks from, and at what: the same as long as nothing of that changes. */
  get sight(): string {
    const { clientWidth, clientHeight } = this.#element;
    return `${this.#camera.matrixWorld.elements.join()} ${clientWidth} ${clientHeight}`;
  }

  /** A world position in pixels of the element; null behind the camera. */
  pixelOf(position: Vec3): readonly [number, number] | null {
    return this.#pixel(position);
  }

  /**
   * Writes where many places are on screen.
   *
   * @param position metres from an origin: 3n
   * @param pixel of the element: 2n; NaN for what lies behind the camera
   * @param perMetre how many pixels a metre is there: n
   */
  writePixels(
    position: Float32Array,
    origin: Readonly<Vec3>,
    n: number,
    pixel: Float32Array,
    perMetre: Float32Array,
  ): void {
    const { projectionMatrix: lens, matrixWorldInverse: view } = this.#camera;
    const m = new Matrix4().multiplyMatrices(lens, view).multiply(new Matrix4().makeTranslation(...origin)).elements;
    const [width, height] = [this.#element.clientWidth / 2, this.#element.clientHeight / 2];
    const metre = height * lens.elements[5];
    for (let i = 0; i < n; i++) {
      const [x, y, z] = [position[3 * i], position[3 * i + 1], position[3 * i + 2]];
      const w = m[3] * x + m[7] * y + m[11] * z + m[15];
      if (!(w > 0)) {
        pixel[2 * i] = pixel[2 * i + 1] = NaN;
        continue;
      }
      pixel[2 * i] = width * (1 + (m[0] * x + m[4] * y + m[8] * z + m[12]) / w);
      pixel[2 * i + 1] = height * (1 - (m[1] * x + m[5] * y + m[9] * z + m[13]) / w);
      perMetre[i] = metre / w;
    }
  }

  #pixel(position: Vec3): readonly [number, number] | null {
    const projected = new Vector3(...position).project(this.#camera);
    if (projected.z > 1 || projected.z < -1) return null;
    const { clientWidth, clientHeight } = this.#element;
    return [((projected.x + 1) / 2) * clientWidth, ((1 - projected.y) / 2) * clientHeight];
  }
}

const isWanted =
  (wanted: Wanted) =>
  ({ parent }: Object3D): boolean => {
    const { surface, ground, outline } = parent?.userData ?? {};
    return typeof surface === "string" && outline !== true && wanted(surface, ground === true);
  };
