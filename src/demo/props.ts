/** The props of the demo scene: pennants, lantern, bollard, buoys, crate, railing, floats, awnings, oar, corks, lamp post, basket. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

const INK = { color: hex("#2b353c"), roughness: 0.6 } satisfies Paint;
const CORD = { color: hex("#6b5638"), roughness: 0.9 } satisfies Paint;

/** A pennant of cloth, 0.40 m broad and 0.52 m long, its seam folded over the rope at its origin. */
export function pennant(color: string): MeshBuilder {
  const cloth: Paint = { color: hex(color), roughness: 0.8, doubleSided: true };
  const shade: Paint = { color: hex(color).map((c) => c * 0.8) as [number, number, number], roughness: 0.8 };
  const mesh = new MeshBuilder();
  // Two halves, folded a little along the middle so that light tells them apart.
  mesh.polygon(cloth, [
    [-0.2, -0.03, 0],
    [0, -0.52, 0.02],
    [0, -0.03, 0.03],
  ]);
  mesh.polygon(cloth, [
    [0, -0.03, 0.03],
    [0, -0.52, 0.02],
    [0.2, -0.03, 0],
  ]);
  mesh.box(shade, [-0.2, -0.045, -0.016], [0.2, 0.02, 0.016]);
  return mesh;
}

/** A paper lantern with a dark cap, 0.34 m across; it hangs by its loop. */
export function lantern(): MeshBuilder {
  const paper: Paint = { color: hex("#f0bd52"), roughness: 0.55, glow: [0.5, 0.3, 0.06] };
  const mesh = new MeshBuilder();
  mesh.lathe(
    CORD,
    [
      [0.012, -0.06],
      [0.012, 0.02],
    ],
    6,
  );
  mesh.lathe(
    INK,
    [
      [0, -0.1],
      [0.085, -0.1],
      [0.085, -0.055],
      [0.03, -0.04],
      [0, -0.04],
    ],
    16,
  );
  const body: [number, number][] = [];
  for (let i = 0; i <= 12; i++) {
    const angle = Math.PI * (0.1 + (0.8 * i) / 12) - Math.PI / 2;
    body.push([0.17 * Math.cos(angle), -0.26 + 0.17 * Math.sin(angle)]);
  }
  mesh.lathe(paper, body, 20);
  mesh.lathe(
    INK,
    [
      [0, -0.435],
      [0.05, -0.435],
      [0.05, -0.415],
      [0, -0.415],
    ],
    12,
  );
  return mesh;
}

/** A bollard of cast iron, 0.5 m across the head and 0.57 m high. */
export function bollard(): MeshBuilder {
  const iron: Paint = { color: hex("#37434b"), roughness: 0.45, metal: 0.35 };
  const worn: Paint = { color: hex("#55636c"), roughness: 0.35, metal: 0.5 };
  return new MeshBuilder()
    .lathe(
      iron,
      [
        [0, 0],
        [0.25, 0],
        [0.25, 0.05],
        [0.2, 0.08],
        [0.15, 0.16],
        [0.14, 0.36],
        [0.18, 0.42],
      ],
      20,
    )
    .lathe(
      worn,
      [
        [0.18, 0.42],
        [0.25, 0.45],
        [0.25, 0.5],
        [0.2, 0.55],
        [0.08, 0.57],
        [0, 0.57],
      ],
      20,
    );
}

/** A lamp post, 2.6 m high, with a lamp of warm glass under a cap. */
export function lampPost(): MeshBuilder {
  const iron: Paint = { color: hex("#2f4a4a"), roughness: 0.5, metal: 0.3 };
  const glass: Paint = { color: hex("#f6dc9a"), roughness: 0.3, glow: [0.55, 0.38, 0.12] };
  return new MeshBuilder()
    .lathe(
      iron,
      [
        [0, 0],
        [0.15, 0],
        [0.15, 0.08],
        [0.1, 0.16],
        [0.06, 0.3],
        [0.04, 0.42],
        [0.032, 2.1],
        [0.09, 2.14],
        [0.09, 2.18],
      ],
      14,
    )
    .lathe(
      glass,
      [
        [0.075, 2.18],
        [0.125, 2.44],
      ],
      8,
    )
    .lathe(
      iron,
      [
        [0.16, 2.44],
        [0.05, 2.56],
        [0, 2.62],
      ],
      8,
    );
}

/** A basket of cane, 0.46 m across, with a hoop to carry it by. */
export function caneBasket(): MeshBuilder {
  const cane: Paint = { color: hex("#b98a4f"), roughness: 0.9, doubleSided: true };
  const rim: Paint = { color: hex("#8d6234"), roughness: 0.85 };
  const mesh = new MeshBuilder()
    .lathe(
      cane,
      [
        [0, 0],
        [0.16, 0],
        [0.2, 0.12],
        [0.225, 0.27],
      ],
      16,
    )
    .lathe(
      rim,
      [
        [0.215, 0.26],
        [0.235, 0.26],
        [0.235, 0.3],
        [0.215, 0.3],
        [0.215, 0.26],
      ],
      16,
    );
  for (let k = 0; k < 10; k++) {
    const [a, b] = [k, k + 1].map((i) => (Math.PI * i) / 10);
    const at = (angle: number, out: number, z: number): Vec3 => [
      (0.22 + out) * Math.cos(angle),
      0.28 + (0.24 + out) * Math.sin(angle),
      z,
    ];
    const ring = [at(a, 0, 0.015), at(a, 0, -0.015), at(b, 0, -0.015), at(b, 0, 0.015)] as const;
    mesh.polygon({ ...rim, doubleSided: true }, ring);
  }
  return mesh;
}

/** A race buoy, 0.56 m across, with a dark topmark; its waterline at the origin. */
export function raceBuoy(color: string): MeshBuilder {
  const skin: Paint = { color: hex(color), roughness: 0.4 };
  const band: Paint = { color: hex("#f4ead6"), roughness: 0.5 };
  return new MeshBuilder()
    .lathe(
      skin,
      [
        [0, -0.16],
        [0.16, -0.13],
        [0.26, -0.03],
        [0.28, 0.06],
        [0.25, 0.16],
        [0.2, 0.22],
      ],
      20,
    )
    .lathe(
      band,
      [
        [0.2, 0.22],
        [0.16, 0.27],
      ],
      20,
    )
    .lathe(
      skin,
      [
        [0.16, 0.27],
        [0.1, 0.31],
        [0, 0.32],
      ],
      20,
    )
    .lathe(
      INK,
      [
        [0.02, 0.3],
        [0.02, 0.5],
      ],
      8,
    )
    .lathe(
      INK,
      [
        [0.1, 0.5],
        [0.0, 0.72],
      ],
      12,
    )
    .lathe(
      INK,
      [
        [0, 0.5],
        [0.1, 0.5],
      ],
      12,
    );
}

/** A crate of boards, 0.8 m broad, 0.6 m high, 0.55 m deep. */
export function crate(): MeshBuilder {
  const wood: Paint = { color: hex("#b58a52"), roughness: 0.85 };
  const frame: Paint = { color: hex("#94703f"), roughness: 0.85 };
  const mesh = new MeshBuilder();
  const tones = [0.94, 1.05, 0.98, 1.08];
  tones.forEach((tone, i) => {
    const y0 = 0.03 + i * 0.14;
    mesh.box(wood, [-0.38, y0, -0.255], [0.38, y0 + 0.12, 0.255], [tone, tone, tone]);
  });
  mesh.box(frame, [-0.39, 0.02, -0.24], [0.39, 0.575, 0.24], [0.6, 0.6, 0.6]);
  for (const x of [-1, 1]) {
    for (const z of [-1, 1]) {
      mesh.box(
        frame,
        [Math.min(x * 0.4, x * 0.33), 0, Math.min(z * 0.275, z * 0.225)],
        [Math.max(x * 0.4, x * 0.33), 0.6, Math.max(z * 0.275, z * 0.225)],
      );
    }
  }
  return mesh;
}

const PAINTED: Paint = { color: hex("#f4ead6"), roughness: 0.55 };

/** A railing's panel, 1.2 m long along Z and 0.92 m high: two rails and seven bars. */
export function railPanel(): MeshBuilder {
  const mesh = new MeshBuilder();
  mesh.box(PAINTED, [-0.03, 0.86, -0.6], [0.03, 0.92, 0.6]);
  mesh.box(PAINTED, [-0.022, 0.12, -0.6], [0.022, 0.17, 0.6]);
  for (let i = 0; i < 7; i++) {
    const z = -0.6 + (1.2 * (i + 0.5)) / 7;
    mesh.box(PAINTED, [-0.013, 0.17, z - 0.013], [0.013, 0.86, z + 0.013]);
  }
  return mesh;
}

/** A railing's post, 0.14 m square and 1.06 m high with its ball. */
export function railPost(): MeshBuilder {
  const gilt: Paint = { color: hex("#d99a2b"), roughness: 0.35, metal: 0.2 };
  return new MeshBuilder()
    .box(PAINTED, [-0.09, 0, -0.09], [0.09, 0.06, 0.09])
    .box(PAINTED, [-0.065, 0.06, -0.065], [0.065, 0.96, 0.065])
    .lathe(gilt, ball(0.065, 1), 16);
}

/** The outline of a ball, for a lathe. */
function ball(radius: number, height: number, pieces = 10): [number, number][] {
  return Array.from({ length: pieces + 1 }, (_, i) => {
    const angle = Math.PI * (i / pieces - 0.5);
    return [Math.max(0, radius * Math.cos(angle)), height + radius * Math.sin(angle)];
  });
}

/** A glass float, 0.11 m across, with a seal of wax on top. */
export function glassFloat(): MeshBuilder {
  const glass: Paint = { color: hex("#4f9d8f"), roughness: 0.12 };
  const wax: Paint = { color: hex("#2c5f57"), roughness: 0.5 };
  return new MeshBuilder().lathe(glass, ball(0.055, 0.055), 18).lathe(
    wax,
    [
      [0.02, 0.107],
      [0.012, 0.116],
      [0, 0.117],
    ],
    10,
  );
}

/** An awning, 1.8 m broad along Z: striped cloth that slopes out from the wall at its origin, with a scalloped front. */
export function awning(color: string): MeshBuilder {
  const cloth: Paint = { color: hex(color), roughness: 0.85, doubleSided: true };
  const pale: Paint = { color: hex("#f6eddb"), roughness: 0.85, doubleSided: true };
  const iron: Paint = { color: hex("#37434b"), roughness: 0.5 };
  const mesh = new MeshBuilder();
  const stripes = 8;
  for (let i = 0; i < stripes; i++) {
    const [z0, z1] = [-0.9 + (1.8 * i) / stripes, -0.9 + (1.8 * (i + 1)) / stripes];
    const paint = i % 2 ? pale : cloth;
    mesh.polygon(paint, [
      [0, 0, z0],
      [0, 0, z1],
      [1.1, -0.55, z1],
      [1.1, -0.55, z0],
    ]);
    mesh.polygon(paint, [
      [1.1, -0.55, z0],
      [1.1, -0.55, z1],
      [1.1, -0.68, z1],
      [1.1, -0.76, (z0 + z1) / 2],
      [1.1, -0.68, z0],
    ]);
  }
  for (const z of [-0.86, 0.86]) mesh.box(iron, [0, -0.74, z - 0.015], [1.06, -0.7, z + 0.015]);
  return mesh;
}

/** An oar, 2.3 m long, standing on its blade, which looks along Z. */
export function oar(): MeshBuilder {
  const wood: Paint = { color: hex("#c39a63"), roughness: 0.7 };
  const blade: Paint = { color: hex("#b5363f"), roughness: 0.6 };
  return new MeshBuilder()
    .box(blade, [-0.08, 0, -0.014], [0.08, 0.55, 0.014])
    .box({ ...PAINTED }, [-0.08, 0.55, -0.014], [0.08, 0.6, 0.014])
    .lathe(
      wood,
      [
        [0.026, 0.56],
        [0.026, 2.1],
      ],
      10,
    )
    .lathe(
      wood,
      [
        [0.034, 2.1],
        [0.034, 2.28],
        [0, 2.3],
      ],
      10,
    );
}

/** A net cork, 0.15 m long along Z, threaded through its middle. */
export function cork(color: string): MeshBuilder {
  const bark: Paint = { color: hex(color), roughness: 0.95 };
  const hole: Paint = { color: hex("#4a3a26"), roughness: 0.95 };
  const mesh = new MeshBuilder();
  const [sides, inner, half] = [14, 0.018, 0.075];
  // A barrel round Z: rings from end to end, and an end that leads in to the rope.
  const rings: [number, number, Paint][] = [
    [inner, -half, hole],
    [0.045, -half, bark],
    [0.06, -half * 0.6, bark],
    [0.06, half * 0.6, bark],
    [0.045, half, bark],
    [inner, half, hole],
  ];
  for (let k = 1; k < rings.length; k++) {
    const [[r0, z0], [r1, z1, paint]] = [rings[k - 1], rings[k]];
    for (let i = 0; i < sides; i++) {
      const corner = (r: number, z: number, n: number): [number, number, number] => {
        const angle = (2 * Math.PI * n) / sides;
        return [r * Math.cos(angle), 0.06 + r * Math.sin(angle), z];
      };
      mesh.polygon(paint, [corner(r0, z0, i), corner(r0, z0, i + 1), corner(r1, z1, i + 1), corner(r1, z1, i)]);
    }
  }
  return mesh;
}
