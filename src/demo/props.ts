/** The props of the demo scene: pennants, a lantern, a bollard, a race buoy, a crate. */
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
