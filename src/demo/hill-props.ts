/** Props of the hillside and the bay: lavender in tubs, heaps of nets, gulls, paper kites. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

/** Numbers from 0 to 1 that are always the same, for shapes that look grown. */
const grown = (k: number): number => {
  const x = Math.sin(12.9898 * k + 4.1) * 43758.5453;
  return x - Math.floor(x);
};

/** Lavender in a tub, 0.5 m across: a cushion of grey leaves with spikes of flowers all over. */
export function lavenderTub(): MeshBuilder {
  const wood: Paint = { color: hex("#8a6a45"), roughness: 0.85 };
  const hoop: Paint = { color: hex("#4d4a44"), roughness: 0.5, metal: 0.4 };
  const leaves: Paint = { color: hex("#8d9c7c"), roughness: 0.95 };
  const flower: Paint = { color: hex("#8272b8"), roughness: 0.9, doubleSided: true };
  const mesh = new MeshBuilder()
    .lathe(
      wood,
      [
        [0, 0],
        [0.17, 0],
        [0.215, 0.26],
        [0.19, 0.26],
        [0, 0.24],
      ],
      14,
    )
    .lathe(
      hoop,
      [
        [0.188, 0.08],
        [0.196, 0.08],
        [0.202, 0.115],
        [0.194, 0.115],
      ],
      14,
    )
    .lathe(
      leaves,
      [
        [0.2, 0.25],
        [0.27, 0.33],
        [0.24, 0.43],
        [0.14, 0.5],
        [0, 0.52],
      ],
      14,
    );
  for (let k = 0; k < 34; k++) {
    const turn = 2.39996 * k;
    const out = 0.25 * Math.sqrt((k + 0.5) / 34);
    const lean = 0.35 + 0.5 * grown(k);
    const foot: Vec3 = [out * Math.cos(turn), 0.5 - 0.9 * out * out * 2, out * Math.sin(turn)];
    const height = 0.17 + 0.07 * grown(k + 50);
    const tip: Vec3 = [foot[0] * (1 + lean), foot[1] + height, foot[2] * (1 + lean)];
    const middle: Vec3 = [0, 1, 2].map((axis) => foot[axis] + 0.45 * (tip[axis] - foot[axis])) as unknown as Vec3;
    const [c, s] = [0.018 * Math.cos(turn + 1.2), 0.018 * Math.sin(turn + 1.2)];
    mesh.polygon(flower, [
      foot,
      [middle[0] + c, middle[1], middle[2] + s],
      tip,
      [middle[0] - c, middle[1], middle[2] - s],
    ]);
  }
  return mesh;
}

/** A heap of nets, 1 m across, with a few floats on it. */
export function netPile(): MeshBuilder {
  const net: Paint = { color: hex("#5d7a70"), roughness: 0.95 };
  const float: Paint = { color: hex("#d07a43"), roughness: 0.6 };
  const mesh = new MeshBuilder();
  const rings: [radius: number, height: number][] = [
    [0.52, 0],
    [0.47, 0.1],
    [0.34, 0.2],
    [0.19, 0.28],
    [0, 0.31],
  ];
  const around = 16;
  const corner = (ring: number, i: number): Vec3 => {
    const [radius, height] = rings[ring];
    const angle = (2 * Math.PI * (i % around)) / around;
    const swell = 1 + 0.16 * Math.sin(3 * angle + ring) + 0.12 * grown((i % around) + 20 * ring);
    return [
      radius * swell * Math.cos(angle),
      height * (0.85 + 0.3 * grown(ring * 7 + (i % around))),
      radius * swell * Math.sin(angle),
    ];
  };
  for (let ring = 0; ring < rings.length - 1; ring++) {
    for (let i = 0; i < around; i++) {
      const shade = 0.8 + 0.4 * grown(i + 31 * ring);
      const tint: Vec3 = [shade, shade, shade];
      mesh.polygon(net, [corner(ring, i), corner(ring + 1, i), corner(ring + 1, i + 1)], tint);
      mesh.polygon(net, [corner(ring, i), corner(ring + 1, i + 1), corner(ring, i + 1)], tint);
    }
  }
  for (const [x, y, z] of [
    [0.2, 0.22, 0.16],
    [-0.24, 0.2, 0.08],
    [0.02, 0.3, -0.1],
  ] as const) {
    mesh.lathe(
      float,
      [
        [0, y - 0.06],
        [0.052, y - 0.02],
        [0.052, y + 0.03],
        [0, y + 0.07],
      ],
      8,
      x,
      z,
    );
  }
  return mesh;
}

/** A body of rings about a spine that runs forward. */
export function ringed(
  mesh: MeshBuilder,
  paint: Paint,
  around: number,
  spine: [z: number, y: number, radius: number][],
): void {
  const at = (k: number, i: number): Vec3 => {
    const [z, y, radius] = spine[k];
    const angle = (2 * Math.PI * (i % around)) / around;
    return [radius * Math.cos(angle), y + radius * Math.sin(angle), z];
  };
  for (let k = 0; k < spine.length - 1; k++)
    for (let i = 0; i < around; i++) mesh.polygon(paint, [at(k, i), at(k, i + 1), at(k + 1, i + 1), at(k + 1, i)]);
}

/** A gull that stands and looks ahead, 0.34 m high. */
export function gull(): MeshBuilder {
  const white: Paint = { color: hex("#f4f1e8"), roughness: 0.8 };
  const grey: Paint = { color: hex("#98a3a8"), roughness: 0.8, doubleSided: true };
  const bill: Paint = { color: hex("#dca23c"), roughness: 0.5, doubleSided: true };
  const mesh = new MeshBuilder();
  // The body: rings about an axis from tail to breast, then the neck and head.
  ringed(mesh, white, 10, [
    [-0.22, 0.17, 0.008],
    [-0.12, 0.17, 0.05],
    [0, 0.175, 0.078],
    [0.09, 0.195, 0.068],
    [0.12, 0.25, 0.042],
    [0.13, 0.295, 0.044],
    [0.165, 0.315, 0.03],
    [0.185, 0.31, 0.008],
  ]);
  for (const side of [1, -1]) {
    mesh.polygon(grey, [
      [side * 0.05, 0.235, 0.07],
      [side * 0.083, 0.2, 0.03],
      [side * 0.06, 0.18, -0.16],
      [side * 0.015, 0.2, -0.27],
      [side * 0.025, 0.245, -0.06],
    ]);
    mesh.box(bill, [side * 0.03 - 0.006, 0, 0], [side * 0.03 + 0.006, 0.12, 0.012]);
  }
  return mesh
    .polygon(bill, [
      [0.012, 0.31, 0.178],
      [-0.012, 0.31, 0.178],
      [0, 0.296, 0.24],
    ])
    .polygon(bill, [
      [0, 0.32, 0.178],
      [0, 0.3, 0.178],
      [0, 0.296, 0.24],
    ]);
}

/** A gull in flight, its wings 1.1 m from tip to tip, a little raised; its middle at the origin. */
export function flyingGull(): MeshBuilder {
  const white: Paint = { color: hex("#f4f1e8"), roughness: 0.8 };
  const grey: Paint = { color: hex("#98a3a8"), roughness: 0.8, doubleSided: true };
  const tip: Paint = { color: hex("#2b353c"), roughness: 0.8, doubleSided: true };
  const bill: Paint = { color: hex("#dca23c"), roughness: 0.5, doubleSided: true };
  const mesh = new MeshBuilder();
  ringed(mesh, white, 8, [
    [-0.24, 0, 0.006],
    [-0.12, 0, 0.045],
    [0, 0, 0.07],
    [0.1, 0, 0.06],
    [0.17, 0, 0.044],
    [0.22, 0, 0.008],
  ]);
  for (const side of [1, -1]) {
    const wing = (x: number, y: number, z: number): Vec3 => [side * x, y, z];
    mesh.polygon(grey, [
      wing(0.03, 0.04, 0.09),
      wing(0.28, 0.13, 0.11),
      wing(0.28, 0.12, -0.06),
      wing(0.03, 0.03, -0.1),
    ]);
    mesh.polygon(grey, [
      wing(0.28, 0.13, 0.11),
      wing(0.47, 0.09, 0.02),
      wing(0.45, 0.08, -0.08),
      wing(0.28, 0.12, -0.06),
    ]);
    mesh.polygon(tip, [wing(0.47, 0.09, 0.02), wing(0.55, 0.05, -0.09), wing(0.45, 0.08, -0.08)]);
    mesh.polygon(white, [wing(0, 0.01, -0.16), wing(0.07, 0.01, -0.34), wing(0, 0.01, -0.32)]);
  }
  return mesh.polygon(bill, [
    [0.012, 0, 0.21],
    [-0.012, 0, 0.21],
    [0, -0.01, 0.28],
  ]);
}

/** A paper kite, 0.8 m high, with a tail of bows; it faces forward. */
export function kite(color: string): MeshBuilder {
  const paper: Paint = { color: hex(color), roughness: 0.8, doubleSided: true };
  const light: Paint = { color: hex("#f2e6cc"), roughness: 0.8, doubleSided: true };
  const stick: Paint = { color: hex("#7a5a36"), roughness: 0.8 };
  const mesh = new MeshBuilder();
  const [top, left, right, low, ridge]: Vec3[] = [
    [0, 0.34, 0],
    [-0.28, 0.1, 0.03],
    [0.28, 0.1, 0.03],
    [0, -0.46, 0],
    [0, 0.1, -0.05],
  ];
  mesh.polygon(paper, [top, left, ridge]).polygon(light, [top, ridge, right]);
  mesh.polygon(light, [left, low, ridge]).polygon(paper, [ridge, low, right]);
  mesh.box(stick, [-0.006, -0.46, -0.058], [0.006, 0.34, -0.046]);
  for (let k = 1; k <= 5; k++) {
    const y = -0.46 - 0.13 * k;
    const x = 0.07 * Math.sin(1.3 * k);
    mesh.polygon(k % 2 ? paper : light, [
      [x - 0.06, y + 0.03, 0],
      [x - 0.06, y - 0.03, 0],
      [x + 0.06, y + 0.03, 0],
      [x + 0.06, y - 0.03, 0],
    ]);
  }
  return mesh;
}
