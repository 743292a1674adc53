/** What is set onto curved things in the demo scene: studs, the crest, shingles. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

/** A stud of brass, 0.07 m across, to be set on by its flat side. */
export function brassStud(): MeshBuilder {
  const brass: Paint = { color: hex("#d9a441"), roughness: 0.3, metal: 0.7 };
  const profile = Array.from({ length: 7 }, (_, k): [number, number] => {
    const angle = (k * Math.PI) / 12;
    return [0.035 * Math.cos(angle), 0.028 * Math.sin(angle)];
  });
  return new MeshBuilder().lathe(brass, profile, 16);
}

/** The regatta's crest, 0.46 m high and 0.38 m broad: a shield with a bar and a bell upon it, to be set on by its back. */
export function crest(): MeshBuilder {
  const field: Paint = { color: hex("#1e6f77"), roughness: 0.5 };
  const rim: Paint = { color: hex("#d9a441"), roughness: 0.35, metal: 0.6 };
  const shield = (size: number): [number, number][] =>
    [
      [-0.19, 0.2],
      [-0.19, 0.02],
      [-0.165, -0.09],
      [-0.1, -0.19],
      [0, -0.26],
      [0.1, -0.19],
      [0.165, -0.09],
      [0.19, 0.02],
      [0.19, 0.2],
    ].map(([x, z]) => [size * x, size * z]);
  const mesh = new MeshBuilder();
  const slab = (paint: Paint, outline: readonly [number, number][], low: number, high: number) => {
    const at = ([x, z]: readonly [number, number], y: number): Vec3 => [x, y, z];
    mesh.polygon(
      paint,
      [...outline].reverse().map((corner) => at(corner, high)),
    );
    outline.forEach((corner, k) => {
      const next = outline[(k + 1) % outline.length];
      mesh.polygon(paint, [at(corner, low), at(corner, high), at(next, high), at(next, low)]);
    });
  };
  slab(rim, shield(1), 0, 0.02);
  slab(field, shield(0.86), 0.02, 0.026);
  // A bar across, and a sail of three corners under it.
  const bar: [number, number][] = [
    [-0.14, 0.12],
    [-0.14, 0.075],
    [0.14, 0.075],
    [0.14, 0.12],
  ];
  slab(rim, bar, 0.026, 0.036);
  slab(
    { color: hex("#f4ead6"), roughness: 0.6 },
    [
      [-0.09, -0.1],
      [0.1, -0.1],
      [0.02, 0.055],
    ],
    0.026,
    0.036,
  );
  return mesh;
}

/** A shingle, 0.16 m broad and 0.27 m long, thicker at its lower end, which lies towards its back; its middle at the origin. */
export function shingle(): MeshBuilder {
  const wood: Paint = { color: hex("#a9523f"), roughness: 0.85 };
  const edge: Paint = { color: hex("#7d3a2d"), roughness: 0.9 };
  const [half, low, high] = [0.08, -0.135, 0.135];
  const [thick, thin, lift] = [0.03, 0.008, 0.014];
  return new MeshBuilder()
    .polygon(wood, [
      [-half, lift + thick, low],
      [-half, thin, high],
      [half, thin, high],
      [half, lift + thick, low],
    ])
    .polygon(edge, [
      [half, lift, low],
      [-half, lift, low],
      [-half, lift + thick, low],
      [half, lift + thick, low],
    ])
    .polygon(edge, [
      [half, lift, low],
      [half, lift + thick, low],
      [half, thin, high],
    ])
    .polygon(edge, [
      [-half, lift, low],
      [-half, thin, high],
      [-half, lift + thick, low],
    ]);
}
