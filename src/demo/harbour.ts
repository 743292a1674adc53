/** The harbour that the demo scene is set in: quay, water, masts, lighthouse, far shore, boats at anchor. */
import { unit, type Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

const wobble = (i: number, j: number, k: number): number => unit(11, k, i, j) - 0.5;
const grey = (tone: number): Vec3 => [tone, tone, tone];
const evenly = (from: number, to: number, n: number): number[] =>
  Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);

/** The height of the quay's paving above the water, metres. */
export const QUAY_HEIGHT = 1.1;

/** A quay of big slabs, 48 m along X, from its edge at z = 0 inland to z = 14. */
export function quay(): MeshBuilder {
  const stone: Paint = { color: hex("#e3cba0"), roughness: 0.95 };
  const edge: Paint = { color: hex("#d9bf92"), roughness: 0.9 };
  const wall: Paint = { color: hex("#bfa77f"), roughness: 0.95 };
  const mesh = new MeshBuilder();
  const [columns, rows] = [30, 9];
  const [width, depth] = [48 / columns, 13.2 / rows];
  const joint = 0.02;
  mesh.box({ ...wall, color: hex("#c4ab80") }, [-24, -2, 0.06], [24, QUAY_HEIGHT - 0.03, 14]);
  for (let j = 0; j < rows; j++) {
    for (let i = -1; i < columns; i++) {
      const x0 = Math.max(-24, -24 + (i + (j % 2) * 0.5) * width) + joint;
      const x1 = Math.min(24, -24 + (i + 1 + (j % 2) * 0.5) * width) - joint;
      if (x1 - x0 < 0.1) continue;
      const z0 = 0.8 + j * depth + joint;
      const z1 = 0.8 + (j + 1) * depth - joint;
      const tone = 1 + 0.13 * wobble(i, j, 1);
      const y = QUAY_HEIGHT + 0.008 * wobble(i, j, 2);
      mesh.box(stone, [x0, y - 0.08, z0], [x1, y, z1], [tone, tone * (1 + 0.02 * wobble(i, j, 3)), tone * 0.99]);
    }
  }
  for (let i = 0; i < 24; i++) {
    const tone = 1 + 0.1 * wobble(i, 0, 4);
    mesh.box(
      edge,
      [-24 + 2 * i + 0.015, QUAY_HEIGHT - 0.3, -0.12],
      [-22 + 2 * i - 0.015, QUAY_HEIGHT + 0.04, 0.78],
      grey(tone),
    );
  }
  for (let row = 0; row < 5; row++) {
    for (let i = 0; i < 24; i++) {
      const x0 = -24 + 2 * i + (row % 2) * 0.8;
      const tone = 1 + 0.16 * wobble(i, row, 5) - 0.09 * row;
      const y1 = QUAY_HEIGHT - 0.32 - row * 0.42;
      mesh.box(wall, [x0 + 0.02, y1 - 0.39, 0], [Math.min(24, x0 + 1.98), y1, 0.1], grey(tone));
    }
  }
  return mesh;
}

/** Still water with long soft swells, lighter towards the horizon. */
export function water(): MeshBuilder {
  const sea: Paint = { color: [1, 1, 1], roughness: 0.32 };
  const [near, deep, far] = [hex("#8fc3b8"), hex("#63a39d"), hex("#c4dad6")];
  const height = (x: number, z: number) =>
    0.03 * Math.sin(0.55 * z + 0.12 * x) +
    0.02 * Math.sin(0.9 * z - 0.45 * x + 1) +
    0.015 * Math.sin(1.7 * z + 0.9 * x);
  const tint = (x: number, z: number): Vec3 => {
    const away = Math.min(1, Math.max(0, (-z - 6) / 170));
    const band =
      0.5 + 0.28 * Math.sin(0.35 * z + 0.05 * x + 1.4 * Math.sin(0.04 * x)) + 0.16 * Math.sin(1.1 * z - 0.2 * x);
    return [0, 1, 2].map((k) => {
      const local = deep[k] + (near[k] - deep[k]) * band;
      return local + (far[k] - local) * away ** 0.75;
    }) as unknown as Vec3;
  };
  // Lines of the grid stand close near the quay and far apart towards the horizon.
  const zs = evenly(0, 1, 150)
    .map((t) => 12 - 30 * t - 280 * t ** 3.2)
    .reverse();
  const xs = evenly(-1, 1, 96).map((t) => 40 * t + 220 * t ** 5);
  return new MeshBuilder().field(sea, xs, zs, height, tint);
}

/** A mast, 6 m above its foot, with a gilded ball on top. The rope is made fast at {@link MAST_ROPE}. */
export function mast(): MeshBuilder {
  const wood: Paint = { color: hex("#8a6238"), roughness: 0.8 };
  const band: Paint = { color: hex("#f4ead6"), roughness: 0.7 };
  const gilt: Paint = { color: hex("#d99a2b"), roughness: 0.35, metal: 0.2 };
  const ball: [number, number][] = evenly(-0.5, 0.5, 10).map((t) => [
    0.17 * Math.cos(Math.PI * t),
    6.1 + 0.17 * Math.sin(Math.PI * t),
  ]);
  return new MeshBuilder()
    .lathe(
      band,
      [
        [0.3, 0],
        [0.3, 0.06],
        [0.24, 0.1],
        [0.17, 0.1],
      ],
      20,
    )
    .lathe(
      wood,
      [
        [0.14, 0.08],
        [0.12, 3],
        [0.085, 6],
      ],
      16,
    )
    .lathe(
      band,
      [
        [0.135, 1.0],
        [0.134, 1.12],
      ],
      16,
    )
    .lathe(
      band,
      [
        [0.11, 5.55],
        [0.11, 5.6],
      ],
      16,
    )
    .lathe(gilt, ball, 20);
}

/** Height above the mast's foot at which ropes are made fast, metres. */
export const MAST_ROPE = 5.85;

/** A lighthouse on its rock, 13 m high. */
export function lighthouse(): MeshBuilder {
  const rock: Paint = { color: hex("#c2a37c"), roughness: 1 };
  const lime: Paint = { color: hex("#f3e7cf"), roughness: 0.9 };
  const red: Paint = { color: hex("#b5363f"), roughness: 0.8 };
  const iron: Paint = { color: hex("#37434b"), roughness: 0.6 };
  const light: Paint = { color: hex("#ffe9ad"), roughness: 0.3, glow: [0.75, 0.58, 0.25] };
  const pane: Paint = { color: hex("#3d5560"), roughness: 0.3 };
  const mesh = new MeshBuilder();

  // Rock: rings of a rough cone.
  const rings = [
    [4.6, -1.5],
    [4.3, 0.1],
    [3.6, 0.75],
    [3.3, 1.25],
    [2.4, 1.45],
  ] as const;
  const segments = 22;
  const corner = (k: number, i: number): Vec3 => {
    const [r, y] = rings[k];
    const j = i % segments;
    const angle = (2 * Math.PI * (j + 0.3 * wobble(j, k, 6))) / segments;
    const rough = k === rings.length - 1 ? 0.2 : 0.9;
    return [
      (r + rough * wobble(j, k, 7)) * Math.cos(angle),
      y + 0.35 * rough * wobble(j, k, 8),
      -(r + rough * wobble(j, k, 7)) * Math.sin(angle),
    ];
  };
  for (let k = 0; k + 1 < rings.length; k++) {
    for (let i = 0; i < segments; i++) {
      const tone = 1 + 0.16 * wobble(i, k, 9) - 0.1 * (k === 0 ? 1 : 0);
      mesh.polygon(rock, [corner(k, i), corner(k, i + 1), corner(k + 1, i + 1)], grey(tone));
      mesh.polygon(rock, [corner(k, i), corner(k + 1, i + 1), corner(k + 1, i)], grey(tone * 1.03));
    }
  }
  mesh.polygon(
    rock,
    Array.from({ length: segments }, (_, i) => corner(rings.length - 1, i)),
    grey(1.05),
  );

  const radius = (y: number) => 2 - ((y - 1.3) / 8.7) * 0.75;
  const stretch = (paint: Paint, y0: number, y1: number) =>
    mesh.lathe(
      paint,
      [
        [radius(y0), y0],
        [radius(y1), y1],
      ],
      40,
    );
  stretch(lime, 1.3, 4.3);
  stretch(red, 4.3, 6);
  stretch(lime, 6, 8.4);
  stretch(red, 8.4, 9.2);
  stretch(lime, 9.2, 10);
  mesh.lathe(
    lime,
    [
      [1.25, 10],
      [1.75, 10.1],
      [1.75, 10.3],
      [0, 10.3],
    ],
    40,
  );
  mesh.lathe(
    iron,
    [
      [1.66, 10.86],
      [1.7, 10.86],
      [1.7, 10.92],
      [1.66, 10.92],
      [1.66, 10.86],
    ],
    40,
  );
  for (let i = 0; i < 20; i++) {
    const angle = (2 * Math.PI * i) / 20;
    mesh.lathe(
      iron,
      [
        [0.022, 10.3],
        [0.022, 10.9],
      ],
      6,
      1.68 * Math.cos(angle),
      1.68 * Math.sin(angle),
    );
  }
  mesh.lathe(
    light,
    [
      [0.86, 10.3],
      [0.86, 11.7],
    ],
    24,
  );
  for (let i = 0; i < 8; i++) {
    const angle = (2 * Math.PI * i) / 8;
    mesh.lathe(
      iron,
      [
        [0.05, 10.3],
        [0.05, 11.7],
      ],
      6,
      0.88 * Math.cos(angle),
      0.88 * Math.sin(angle),
    );
  }
  mesh.lathe(
    iron,
    [
      [0.95, 11.66],
      [1.08, 11.7],
      [1.08, 11.78],
    ],
    32,
  );
  mesh.lathe(
    red,
    [
      [1.12, 11.78],
      [0.62, 12.5],
      [0.1, 12.95],
      [0, 12.97],
    ],
    32,
  );
  mesh.lathe(
    { ...lime },
    [
      [0.11, 12.9],
      [0.13, 13.02],
      [0, 13.16],
    ],
    12,
  );
  // A door towards the quay and windows above it.
  for (const [y, h, w] of [
    [1.4, 1.5, 0.42],
    [3.4, 0.5, 0.2],
    [6.9, 0.5, 0.2],
    [9.45, 0.32, 0.16],
  ] as const) {
    const z = radius(y) + 0.03;
    mesh.box(iron, [-w - 0.07, y - 0.02, z - 0.35], [w + 0.07, y + h + 0.07, z]);
    mesh.box(pane, [-w, y, z - 0.3], [w, y + h, z + 0.02]);
  }
  return mesh;
}

/** The cap of the lighthouse, over the one that it is built with, to be shingled. */
export function lighthouseCap(): MeshBuilder {
  const board: Paint = { color: hex("#8d6234"), roughness: 0.9 };
  const between = (
    from: readonly [number, number],
    to: readonly [number, number],
    pieces: number,
  ): [number, number][] =>
    Array.from({ length: pieces + 1 }, (_, k) => [
      from[0] + ((to[0] - from[0]) * k) / pieces,
      from[1] + ((to[1] - from[1]) * k) / pieces,
    ]);
  return new MeshBuilder().lathe(
    board,
    [...between([1.17, 11.76], [0.66, 12.51], 6), ...between([0.66, 12.51], [0.14, 12.95], 6).slice(1)],
    48,
  );
}

/** The far shore: soft hills with a row of small houses, seen through haze. */
export function shore(): MeshBuilder {
  const land: Paint = { color: [1, 1, 1], roughness: 1 };
  const house: Paint = { color: hex("#f1e4cb"), roughness: 0.9 };
  const roof: Paint = { color: hex("#b9695a"), roughness: 0.9 };
  const ridge = (x: number) =>
    8 + 5 * Math.sin(0.021 * x + 0.4) + 3 * Math.sin(0.057 * x + 2) + 1.2 * Math.sin(0.14 * x);
  const height = (x: number, z: number) => {
    const inland = Math.min(1, Math.max(0, (-z - 112) / 46));
    return -1 + (ridge(x) + 1) * inland * inland * (3 - 2 * inland);
  };
  const [low, high] = [hex("#a9bfa0"), hex("#7fa08f")];
  const tint = (x: number, z: number): Vec3 => {
    const t = Math.min(1, Math.max(0, height(x, z) / 12)) + 0.1 * Math.sin(0.2 * x + 0.35 * z);
    return [0, 1, 2].map((k) => low[k] + (high[k] - low[k]) * t) as unknown as Vec3;
  };
  const mesh = new MeshBuilder().field(land, evenly(-230, 230, 110), evenly(-160, -110, 16), height, tint);
  for (let i = 0; i < 46; i++) {
    const x = -150 + i * 6.3 + 6 * wobble(i, 0, 12);
    const z = -121 - 12 * unit(3, 13, i, 0);
    const [w, h] = [1.1 + 0.8 * unit(3, 14, i, 0), 1.8 + 1.2 * unit(3, 15, i, 0)];
    const y = height(x, z) - 0.3;
    mesh.box(house, [x - w, y, z - 1.4], [x + w, y + h, z + 1.4], grey(0.92 + 0.16 * unit(3, 16, i, 0)));
    mesh.polygon(roof, [
      [x - w - 0.2, y + h, z + 1.6],
      [x + w + 0.2, y + h, z + 1.6],
      [x + w + 0.2, y + h + 1.2, z],
      [x - w - 0.2, y + h + 1.2, z],
    ]);
    mesh.polygon(house, [
      [x - w, y + h, z + 1.4],
      [x - w, y + h + 1.1, z],
      [x - w, y + h, z - 1.4],
    ]);
    mesh.polygon(house, [
      [x + w, y + h, z - 1.4],
      [x + w, y + h + 1.1, z],
      [x + w, y + h, z + 1.4],
    ]);
  }
  return mesh;
}

/** A small sailing boat, 5 m long, bow towards +X. */
/** @param mainsail whether it carries its large sail, or that is a surface of its own */
export function boat(sail: string, mainsail = true): MeshBuilder {
  const hull: Paint = { color: hex("#f4ead6"), roughness: 0.5 };
  const stripe: Paint = { color: hex(sail), roughness: 0.5 };
  const deck: Paint = { color: hex("#a97c42"), roughness: 0.8 };
  const cloth: Paint = { color: hex("#fbf5e6"), roughness: 0.9, doubleSided: true };
  const colored: Paint = { color: hex(sail), roughness: 0.9, doubleSided: true };
  const mesh = new MeshBuilder();
  const breadth = (t: number) => 0.85 * Math.sqrt(Math.max(0, 1 - (2 * t - 0.75) ** 4 * (t > 0.375 ? 0.42 : 0.6)));
  const section = (t: number): [number, number] => [-2.3 + 5 * t, t >= 1 ? 0 : breadth(t)];
  const n = 14;
  for (let i = 0; i < n; i++) {
    const [x0, w0] = section(i / n);
    const [x1, w1] = section((i + 1) / n);
    const sheer = (x: number) => 0.62 + 0.035 * (x - 0.2) ** 2;
    for (const side of [1, -1]) {
      const quad = (paint: Paint, a: number, b: number, low: (x: number) => number, high: (x: number) => number) => {
        const corners: Vec3[] = [
          [x0, low(x0), side * w0 * a],
          [x1, low(x1), side * w1 * a],
          [x1, high(x1), side * w1 * b],
          [x0, high(x0), side * w0 * b],
        ];
        mesh.polygon(paint, side > 0 ? corners : corners.reverse());
      };
      quad(
        hull,
        0.35,
        0.95,
        () => -0.25,
        (x) => sheer(x) - 0.16,
      );
      quad(stripe, 0.95, 1, (x) => sheer(x) - 0.16, sheer);
      quad(
        deck,
        1,
        0,
        (x) => sheer(x) - 0.02,
        (x) => sheer(x) - 0.02,
      );
    }
  }
  mesh.polygon(hull, [
    [-2.3, -0.25, -0.3],
    [-2.3, -0.25, 0.3],
    [-2.3, 0.8, breadth(0)],
    [-2.3, 0.8, -breadth(0)],
  ]);
  mesh.lathe(
    deck,
    [
      [0.06, 0.5],
      [0.035, 6.4],
    ],
    8,
    0.5,
  );
  if (mainsail)
    mesh.polygon(cloth, [
      [0.42, 1.2, 0],
      [0.42, 6.1, 0.05],
      [-0.9, 3.4, 0.32],
      [-2.1, 1.15, 0.35],
    ]);
  mesh.polygon(colored, [
    [0.6, 5.4, 0.02],
    [0.7, 1.1, 0.2],
    [2.6, 0.75, 0],
  ]);
  return mesh;
}
