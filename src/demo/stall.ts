/** The stall on the quay of the demo scene, what is sold there, and the shelves that it stands on. */
import type { Vec3 } from "@/core/math";
import { STALL } from "./places";
import { hex, MeshBuilder, type Paint } from "./shapes";

/** Half its breadth, the depth of its shelves, and how high their tops are above the quay, metres. */
const [HALF, DEPTH] = [1.1, 0.46];
const SHELVES = [0.42, 0.9, 1.38] as const;
const BOARD = 0.035;

/** A stall, 2.2 m along X, its front at the origin facing along Z: three shelves under a striped roof. */
export function stall(): MeshBuilder {
  const wood: Paint = { color: hex("#8a6238"), roughness: 0.85 };
  const board: Paint = { color: hex("#b98d55"), roughness: 0.8 };
  const mesh = new MeshBuilder();
  for (const x of [-HALF - 0.06, HALF])
    for (const z of [-DEPTH, -0.06]) mesh.box(wood, [x, 0, z], [x + 0.06, z < -0.1 ? 2.15 : 1.95, z + 0.06]);
  mesh.box(wood, [-HALF, 0.1, -DEPTH - 0.03], [HALF, SHELVES[2] + 0.35, -DEPTH]);
  for (const top of SHELVES) mesh.box(board, [-HALF, top - BOARD, -DEPTH], [HALF, top, 0]);
  const stripes = 11;
  for (let k = 0; k < stripes; k++) {
    const paint: Paint = k % 2 === 0 ? STRIPES[0] : STRIPES[1];
    const [a, b] = [k, k + 1].map((n) => -HALF - 0.12 + ((2 * HALF + 0.24) * n) / stripes);
    const [rear, front]: [number, number][] = [
      [-DEPTH - 0.1, 2.22],
      [0.22, 1.93],
    ];
    mesh.polygon(paint, [[a, front[1], front[0]], [b, front[1], front[0]], [b, rear[1], rear[0]], [a, rear[1], rear[0]]]); // prettier-ignore
    mesh.polygon(paint, [[a, front[1] - 0.14, front[0]], [b, front[1] - 0.14, front[0]], [b, front[1], front[0]], [a, front[1], front[0]]]); // prettier-ignore
  }
  return mesh;
}

const STRIPES: readonly Paint[] = ["#b5363f", "#f4ead6"].map((color) => ({
  color: hex(color),
  roughness: 0.8,
  doubleSided: true,
}));

/** A jar, 0.1 m across and 0.15 m high, with a lid of cloth. */
export function jar(color: string): MeshBuilder {
  const glass: Paint = { color: hex(color), roughness: 0.2 };
  const lid: Paint = { color: hex("#efe3cb"), roughness: 0.9 };
  return new MeshBuilder()
    .lathe(
      glass,
      [
        [0, 0],
        [0.046, 0],
        [0.05, 0.02],
        [0.05, 0.105],
        [0.04, 0.122],
      ],
      12,
    )
    .lathe(
      lid,
      [
        [0.046, 0.115],
        [0.046, 0.145],
        [0, 0.15],
      ],
      12,
    );
}

/** A loaf, 0.26 m long along X, 0.12 m deep and 0.11 m high. */
export function loaf(): MeshBuilder {
  const crust: Paint = { color: hex("#b06f2e"), roughness: 0.9 };
  const mesh = new MeshBuilder();
  const [ends, around] = [10, 10];
  const place = (i: number, j: number): Vec3 => {
    const share = (2 * i) / ends - 1;
    const round = Math.sqrt(Math.max(0, 1 - Math.abs(share) ** 3.2));
    const angle = (Math.PI * j) / around;
    return [0.13 * share, 0.11 * round * Math.sin(angle), 0.06 * round * Math.cos(angle)];
  };
  for (let i = 0; i < ends; i++)
    for (let j = 0; j < around; j++)
      mesh.polygon(crust, [place(i, j), place(i, j + 1), place(i + 1, j + 1), place(i + 1, j)]);
  for (let i = 0; i < ends; i++)
    mesh.polygon(crust, [place(i, 0), place(i + 1, 0), place(i + 1, around), place(i, around)]);
  return mesh;
}

const shelf = (id: string, number: number, name: string, level: number) => ({
  id,
  number,
  name,
  kind: "polyline",
  knots: [-1, 1].map((side) => ({
    position: [STALL[0] + side * (HALF - 0.04), STALL[1] + SHELVES[level] + 0.002, STALL[2] - 0.03],
  })),
});

/** The front edges of the shelves, from west to east. */
export const STALL_LINES = [shelf("jar-shelf", 25, "Jar shelf", 0), shelf("loaf-shelf", 26, "Loaf shelf", 2)];

export const STALL_DRESSINGS = [
  {
    id: "shelf-jars",
    name: "Shelf jars",
    where: {
      lines: ["jar-shelf"],
      stacked: true,
      deep: [3, 4],
      high: [2, 2],
      levels: 2,
      levelRise: SHELVES[1] - SHELVES[0],
    },
    what: {
      entries: [
        { prop: "jar-honey", count: 4 },
        { prop: "jar-plum", count: 3 },
      ],
    },
    spacing: { by: "end", gap: 0.012, remainder: "centred", roomBehind: 0.008 },
    variation: { seed: 8 },
    gaps: { lessTop: 1, taken: 0.3, clump: 0.5 },
  },
  {
    id: "shelf-loaves",
    name: "Shelf loaves",
    where: { lines: ["loaf-shelf"], stacked: true, deep: [3, 3], high: [2, 2] },
    what: { entries: [{ prop: "loaf" }] },
    spacing: { by: "end", gap: 0.02, remainder: "centred", roomBehind: 0.012 },
    stance: { turnUp: Math.PI / 2 },
    variation: { seed: 3, tintOn: true, tintFrom: "#ffffff", tintTo: "#e0b890" },
    gaps: { lessTop: 1, taken: 0.35, clump: 0.6 },
  },
];
