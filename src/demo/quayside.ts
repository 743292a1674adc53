/** What stands on the quay of the demo scene: a lifebuoy on its board, the harbour front, a rack for oars. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

/** A lifebuoy, 1.2 m across, upright and facing along Z, on a board of its own; its middle at the origin. */
export function lifebuoy(): MeshBuilder {
  const board: Paint = { color: hex("#8a6238"), roughness: 0.8 };
  const skin: Paint = { color: hex("#d65a3a"), roughness: 0.5 };
  const white: Paint = { color: hex("#f4ead6"), roughness: 0.5 };
  const mesh = new MeshBuilder();
  mesh.box(board, [-0.07, -1.35, -0.22], [0.07, 0.78, -0.1]);
  mesh.box(board, [-0.5, -1.35, -0.34], [0.5, -1.28, 0.02]);
  mesh.box(board, [-0.34, 0.32, -0.2], [0.34, 0.42, -0.12]);
  mesh.box(board, [-0.34, -0.42, -0.2], [0.34, -0.32, -0.12]);
  const [around, across] = [48, 14];
  const [ring, tube] = [0.45, 0.085];
  const place = (i: number, j: number): Vec3 => {
    const [a, b] = [(2 * Math.PI * i) / around, (2 * Math.PI * j) / across];
    const r = ring + tube * Math.cos(b);
    return [r * Math.cos(a), r * Math.sin(a), tube * Math.sin(b)];
  };
  for (let i = 0; i < around; i++) {
    const paint = Math.floor((i + 3) / 6) % 2 ? skin : white;
    for (let j = 0; j < across; j++) {
      mesh.polygon(paint, [place(i, j), place(i + 1, j), place(i + 1, j + 1), place(i, j + 1)]);
    }
  }
  return mesh;
}

/** A mooring buoy, 1.24 m across and 1.3 m high, standing on its foot: a belly in madder and a shoulder in linen. */
export function mooringBuoy(): MeshBuilder {
  const belly: Paint = { color: hex("#b5363f"), roughness: 0.45 };
  const foot: Paint = { color: hex("#7e2831"), roughness: 0.5 };
  const shoulder: Paint = { color: hex("#efe3cb"), roughness: 0.5 };
  const around = (from: number, to: number, pieces: number): [number, number][] =>
    Array.from({ length: pieces + 1 }, (_, k) => {
      const high = from + ((to - from) * k) / pieces;
      const off = (high - 0.56) / 0.8;
      return [0.62 * Math.sqrt(Math.max(0.09, 1 - off * off)), high];
    });
  return new MeshBuilder()
    .lathe(foot, around(0, 0.2, 4), 48)
    .lathe(belly, around(0.2, 0.88, 14), 48)
    .lathe(shoulder, [...around(0.88, 1.2, 7), [0.26, 1.3]], 48);
}

/** The profile of a barrel's belly between two heights, so far out of it. */
const belly = (from: number, to: number, out = 0): [number, number][] =>
  Array.from({ length: 13 }, (_, k) => {
    const high = from + ((to - from) * k) / 12;
    return [0.39 - 0.09 * (2 * (high / 0.96) - 1) ** 2 + out, high];
  });

/** The staves of a barrel, 0.78 m across the belly and 0.96 m high. */
export function barrel(): MeshBuilder {
  return new MeshBuilder().lathe({ color: hex("#8a5a34"), roughness: 0.75 }, belly(0, 0.96), 64);
}

/** What holds the barrel together: four hoops, and its lid. */
export function barrelHoops(): MeshBuilder {
  const hoop: Paint = { color: hex("#3c474d"), roughness: 0.5, metal: 0.5 };
  const mesh = new MeshBuilder();
  for (const low of [0.02, 0.19, 0.71, 0.89]) mesh.lathe(hoop, belly(low, low + 0.05, 0.006), 64);
  const lid: [number, number][] = [
    [0.302, 0.93],
    [0, 0.93],
  ];
  return mesh.lathe({ color: hex("#a9784a"), roughness: 0.8 }, lid, 48);
}

/** The eye on top of the mooring buoy: a cap and an upright ring of iron. */
export function mooringEye(): MeshBuilder {
  const iron: Paint = { color: hex("#41525c"), roughness: 0.4, metal: 0.6 };
  const mesh = new MeshBuilder().lathe(
    iron,
    [
      [0.275, 1.28],
      [0.25, 1.33],
      [0, 1.36],
    ],
    32,
  );
  const [around, across, ring, tube] = [24, 10, 0.11, 0.028];
  const place = (i: number, j: number): Vec3 => {
    const [a, b] = [(2 * Math.PI * i) / around, (2 * Math.PI * j) / across];
    const r = ring + tube * Math.cos(b);
    return [r * Math.cos(a), 1.44 + r * Math.sin(a), tube * Math.sin(b)];
  };
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++)
      mesh.polygon(iron, [place(i, j), place(i + 1, j), place(i + 1, j + 1), place(i, j + 1)]);
  return mesh;
}

/** A ring of cane, 0.24 m across, lying flat on the ground that it stands on. */
export function potRing(): MeshBuilder {
  const cane: Paint = { color: hex("#b98d55"), roughness: 0.8 };
  const mesh = new MeshBuilder();
  const [around, across, ring, tube] = [14, 4, 0.112, 0.0095];
  const place = (i: number, j: number): Vec3 => {
    const [a, b] = [(2 * Math.PI * i) / around, (2 * Math.PI * j) / across];
    const r = ring + tube * Math.cos(b);
    return [r * Math.cos(a), tube + tube * Math.sin(b), -r * Math.sin(a)];
  };
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++)
      mesh.polygon(cane, [place(i, j), place(i + 1, j), place(i + 1, j + 1), place(i, j + 1)]);
  return mesh;
}

/** A float of 0.84 m across and 1.3 m high, standing on a foot of wood. */
export function crestFloat(): MeshBuilder {
  const skin: Paint = { color: hex("#efe3cb"), roughness: 0.5 };
  const wood: Paint = { color: hex("#8a6238"), roughness: 0.85 };
  const profile = Array.from({ length: 25 }, (_, k): [number, number] => {
    const angle = ((k - 12) * Math.PI) / 24;
    return [0.42 * Math.cos(angle), 0.75 + 0.62 * Math.sin(angle)];
  });
  return new MeshBuilder()
    .lathe(
      wood,
      [
        [0.34, 0],
        [0.34, 0.12],
        [0.2, 0.2],
        [0.2, 0.28],
      ],
      24,
    )
    .lathe(skin, profile, 48);
}

/** Where awnings are hung on the harbour front: the height above the quay, metres. */
export const AWNING_HEIGHT = 2.75;

/** A front of six narrow houses, 12 m along X from the origin, facing along -Z. */
export function harbourFront(): MeshBuilder {
  const trim: Paint = { color: hex("#f4ead6"), roughness: 0.8 };
  const pane: Paint = { color: hex("#41525c"), roughness: 0.3 };
  const door: Paint = { color: hex("#1e6f77"), roughness: 0.6 };
  const tiles: Paint = { color: hex("#a9523f"), roughness: 0.9 };
  const mesh = new MeshBuilder();
  const walls = ["#e7d3a8", "#dcb9a0", "#cfd6c8", "#ecdcc0", "#d9c6b8", "#c7d3d6"];
  walls.forEach((color, i) => {
    const wall: Paint = { color: hex(color), roughness: 0.9 };
    const [x0, x1] = [2 * i, 2 * i + 2];
    const tall = 4.6 + 0.7 * ((i * 3) % 4);
    mesh.box(wall, [x0 + 0.01, 0, 0], [x1 - 0.01, tall, 2.4]);
    // A gable to the street, its roof a little broader than the house.
    const peak = tall + 1.1;
    const middle = (x0 + x1) / 2;
    mesh.polygon(wall, [
      [x1, tall, 0],
      [x0, tall, 0],
      [middle, peak, 0],
    ]);
    mesh.polygon(tiles, [
      [x0 - 0.06, tall - 0.06, -0.12],
      [x0 - 0.06, tall - 0.06, 2.4],
      [middle, peak + 0.04, 2.4],
      [middle, peak + 0.04, -0.12],
    ]);
    mesh.polygon(tiles, [
      [middle, peak + 0.04, -0.12],
      [middle, peak + 0.04, 2.4],
      [x1 + 0.06, tall - 0.06, 2.4],
      [x1 + 0.06, tall - 0.06, -0.12],
    ]);
    const left = i % 2 === 0;
    mesh.box(door, [left ? x0 + 0.25 : x1 - 0.95, 0.05, -0.03], [left ? x0 + 0.95 : x1 - 0.25, 1.95, 0.01]);
    mesh.box(pane, [left ? x1 - 0.85 : x0 + 0.2, 0.75, -0.03], [left ? x1 - 0.2 : x0 + 0.85, 1.75, 0.01]);
    for (let y = 3.3; y + 0.9 < tall; y += 1.2) {
      for (const x of [x0 + 0.35, x1 - 0.9]) {
        mesh.box(trim, [x - 0.05, y - 0.05, -0.03], [x + 0.6, y + 0.85, 0.01]);
        mesh.box(pane, [x, y, -0.05], [x + 0.55, y + 0.8, 0.01]);
      }
    }
  });
  return mesh;
}

/** A rack for oars, 2.4 m along X, its two bars at 0.5 m and 1.55 m; oars lean against it from the front. */
export function oarRack(): MeshBuilder {
  const wood: Paint = { color: hex("#7b5b37"), roughness: 0.85 };
  const mesh = new MeshBuilder();
  for (const x of [-1.2, 1.12]) {
    mesh.box(wood, [x, 0, -0.06], [x + 0.08, 1.62, 0.02]);
    mesh.box(wood, [x, 0, -0.4], [x + 0.08, 0.08, 0.34]);
  }
  mesh.box(wood, [-1.28, 1.5, -0.02], [1.28, 1.58, 0.05]);
  mesh.box(wood, [-1.2, 0.5, -0.05], [1.2, 0.57, 0]);
  return mesh;
}
