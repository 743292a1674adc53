/** What moves in the demo scene: a sail and what is sewn onto it, a flag, the market's belt on its rollers. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

const cloth = (color: string): Paint => ({ color: hex(color), roughness: 0.9, doubleSided: true });

/** A sail like the boats', on its own: from the clew (left) to the mast (right), from the boom up to the head. */
export function mainsail(): MeshBuilder {
  const linen = cloth("#fbf5e6");
  const seam = (v: number): Vec3 => {
    const tone = Math.abs(((6 * v + 0.5) % 1) - 0.5) < 0.06 ? 0.82 : 1;
    return [tone, tone, tone * 0.98];
  };
  return new MeshBuilder().cloth(linen, 24, 48, ([u, v]) => {
    const leech: Vec3 = [-2.1 + 2.38 * v + 0.25 * v * (1 - v), 1.15 + 4.92 * v, 0.06];
    const luff: Vec3 = [0.42, 1.2 + 4.9 * v, 0.05];
    const point = [0, 1, 2].map((k) => leech[k] + u * (luff[k] - leech[k])) as unknown as Vec3;
    return { point, tint: seam(v) };
  });
}

/** The flag at the quay, three stripes, 2 m long, its hoist at the origin. */
export function flag(): MeshBuilder {
  const mesh = new MeshBuilder();
  ["#1e6f77", "#fbf5e6", "#b5363f"].forEach((colour, stripe) =>
    mesh.cloth(cloth(colour), 28, 6, ([u, v]) => ({ point: [2 * u, 1.2 * v, 0] }), [
      [0, stripe / 3],
      [1, (stripe + 1) / 3],
    ]),
  );
  return mesh;
}

/** How high the flagstaff is, from its foot. */
export const STAFF_HEIGHT = 5.4;

export function flagstaff(): MeshBuilder {
  const wood: Paint = { color: hex("#f4ead6"), roughness: 0.6 };
  const gilt: Paint = { color: hex("#d99a2b"), roughness: 0.35, metal: 0.2 };
  return new MeshBuilder()
    .lathe(
      wood,
      [
        [0.16, 0],
        [0.16, 0.1],
        [0.06, 0.16],
        [0.045, STAFF_HEIGHT],
      ],
      14,
    )
    .lathe(
      gilt,
      [
        [0, STAFF_HEIGHT],
        [0.08, STAFF_HEIGHT + 0.04],
        [0.08, STAFF_HEIGHT + 0.1],
        [0, STAFF_HEIGHT + 0.16],
      ],
      14,
    );
}

/** The belt's rollers: their radius, and how far the two are apart, metres. */
export const ROLLER = 0.26;
export const BELT = 3.2;

/** What the market's belt runs on: two rollers on trestles, the middle between them at the origin. */
export function beltStand(): MeshBuilder {
  const wood: Paint = { color: hex("#8a6238"), roughness: 0.8 };
  const iron: Paint = { color: hex("#3c4348"), roughness: 0.5, metal: 0.3 };
  const mesh = new MeshBuilder();
  const r = ROLLER - 0.012;
  for (const x of [-BELT / 2, BELT / 2]) {
    const around = 20;
    const place = (i: number, z: number): Vec3 => {
      const angle = (2 * Math.PI * i) / around;
      return [x + r * Math.cos(angle), r * Math.sin(angle), z];
    };
    for (let i = 0; i < around; i++)
      mesh.polygon(iron, [place(i, 0.32), place(i + 1, 0.32), place(i + 1, -0.32), place(i, -0.32)].reverse());
    for (const z of [-0.4, 0.4]) {
      const rim = Array.from({ length: around }, (_, i) => place(i, Math.sign(z) * 0.32));
      mesh.polygon(iron, z > 0 ? rim : rim.reverse());
      mesh.box(wood, [x - 0.06, -0.95, z - 0.04], [x + 0.06, 0.05, z + 0.04]);
      mesh.box(wood, [x - 0.3, -0.95, z - 0.04], [x + 0.3, -0.87, z + 0.04]);
    }
    mesh.box(iron, [x - 0.03, -0.03, -0.42], [x + 0.03, 0.03, 0.42]);
  }
  for (const z of [-0.4, 0.4]) mesh.box(wood, [-BELT / 2, -0.06, z - 0.03], [BELT / 2, 0.03, z + 0.03]);
  return mesh;
}

/** A flat shape that lies, its top towards +Z; corners in the plane, seen from above with +Z up. */
function flat(mesh: MeshBuilder, paint: Paint, corners: readonly (readonly [number, number])[], height: number): void {
  // Seen from above with +Z up, +X lies to the left.
  mesh.polygon(
    paint,
    corners.map(([right, up]): Vec3 => [-right, height, up]),
  );
}

const ring = (n: number, radius: number, turn = 0): [number, number][] =>
  Array.from({ length: n }, (_, i) => {
    const angle = turn + (2 * Math.PI * i) / n;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });

/** A slab of paving, 0.62 m by 0.4 m, with worn edges. */
export function paver(): MeshBuilder {
  const stone: Paint = { color: hex("#c9b490"), roughness: 0.95 };
  return new MeshBuilder()
    .box(stone, [-0.31, 0, -0.2], [0.31, 0.06, 0.2])
    .box({ ...stone, color: hex("#d8c6a3") }, [-0.285, 0.06, -0.175], [0.285, 0.075, 0.175]);
}

/** A round badge with a star, half a metre across, to be sewn on. */
export function starBadge(): MeshBuilder {
  const mesh = new MeshBuilder();
  flat(mesh, cloth("#b5363f"), ring(28, 0.26), 0.004);
  flat(mesh, cloth("#f4ead6"), ring(28, 0.215), 0.008);
  for (let k = 0; k < 5; k++) {
    const [a, b, c] = [k, k + 0.5, k - 0.5].map((turn) => Math.PI / 2 + (2 * Math.PI * turn) / 5);
    const at = (angle: number, r: number): [number, number] => [r * Math.cos(angle), r * Math.sin(angle)];
    flat(mesh, cloth("#1e6f77"), [[0, 0], at(c, 0.075), at(a, 0.185), at(b, 0.075)], 0.012);
  }
  return mesh;
}

/** A seven, as boats carry a number on their sails: 0.8 m high. */
export function sailNumber(): MeshBuilder {
  const mesh = new MeshBuilder();
  const ink = cloth("#1f2a33");
  flat(mesh, ink, [[-0.25, 0.26], [0.25, 0.26], [0.25, 0.4], [-0.25, 0.4]], 0.006); // prettier-ignore
  flat(mesh, ink, [[-0.13, -0.4], [0.02, -0.4], [0.25, 0.26], [0.09, 0.26]], 0.006); // prettier-ignore
  return mesh;
}
