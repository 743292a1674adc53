/** A boat being built on the quay of the demo scene: ribs on a keel, planks and thwarts between their divisions; and festoons. */
import type { Vec3 } from "@/core/math";
import { dressedBy, SHIPPED } from "@/core/place";
import { BOATYARD } from "./places";
import { hex, MeshBuilder, type Paint } from "./shapes";

const OAK: Paint = { color: hex("#b07f45"), roughness: 0.8 };

/** A timber, 1 m long along Z, 0.09 m wide and 0.07 m high, its origin in the middle; in pieces, so that it bends. */
export function timber(): MeshBuilder {
  const mesh = new MeshBuilder();
  const [x, y, pieces] = [0.045, 0.035, 12];
  const ring = (z: number): Vec3[] => [[-x, -y, z], [x, -y, z], [x, y, z], [-x, y, z]]; // prettier-ignore
  for (let i = 0; i < pieces; i++) {
    const [a, b] = [ring(i / pieces - 0.5), ring((i + 1) / pieces - 0.5)];
    for (let k = 0; k < 4; k++) mesh.polygon(OAK, [a[k], a[(k + 1) % 4], b[(k + 1) % 4], b[k]].reverse());
  }
  return mesh.polygon(OAK, ring(-0.5).reverse()).polygon(OAK, ring(0.5));
}

/** A plank, 1 m long along Z, 0.15 m wide and 0.024 m thick, lying on its origin. */
export function plank(): MeshBuilder {
  const pine: Paint = { color: hex("#d9b27a"), roughness: 0.75 };
  return new MeshBuilder().box(pine, [-0.075, 0, -0.5], [0.075, 0.024, 0.5]);
}

/** A bulb of a festoon, 0.13 m long, hanging from its cap. */
export function bulb(): MeshBuilder {
  const cap: Paint = { color: hex("#2b353c"), roughness: 0.6 };
  const glass: Paint = { color: hex("#f6cf6a"), roughness: 0.3, glow: [0.7, 0.46, 0.1] };
  return new MeshBuilder()
    .lathe(
      cap,
      [
        [0.02, -0.045],
        [0.02, 0.012],
        [0, 0.012],
      ],
      8,
    )
    .lathe(
      glass,
      [
        [0, -0.13],
        [0.034, -0.115],
        [0.044, -0.085],
        [0.036, -0.056],
        [0.02, -0.045],
      ],
      12,
    );
}

/** Where the ribs stand along the keel from its middle, how far out they go and how high, metres. */
const RIBS: readonly (readonly [along: number, out: number, high: number])[] = [
  [-1.5, 0.42, 1.06],
  [-0.9, 0.62, 0.96],
  [-0.3, 0.72, 0.92],
  [0.3, 0.72, 0.92],
  [0.9, 0.6, 0.96],
  [1.5, 0.38, 1.08],
];
const KEEL = 0.22;

const at = ([x, y, z]: Vec3): Vec3 => [BOATYARD[0] + x, BOATYARD[1] + y, BOATYARD[2] + z];

const rib = ([x, out, high]: readonly [number, number, number], i: number) => ({
  id: `rib-${i + 1}`,
  number: 28 + i,
  name: `Rib ${i + 1}`,
  kind: "smooth",
  knots: (
    [
      [x, high, -out],
      [x, KEEL + 0.3 * (high - KEEL), -0.85 * out],
      [x, KEEL, 0],
      [x, KEEL + 0.3 * (high - KEEL), 0.85 * out],
      [x, high, out],
    ] as const
  ).map((place) => ({ position: at(place) })),
});

const RIB_IDS = RIBS.map((_, i) => `rib-${i + 1}`);

/** The yard is fenced in by a recipe. */
const FENCE = "shipped-railing";
const FENCED = dressedBy(
  { id: FENCE, recipe: SHIPPED[FENCE](), roles: { panel: "rail-panel", post: "rail-post" } },
  { lines: ["yard-line"] },
);

export const BOATYARD_LINES = [
  ...RIBS.map(rib),
  {
    id: "keel",
    number: 34,
    name: "Keel",
    kind: "polyline",
    knots: [{ position: at([-1.95, KEEL - 0.08, 0]) }, { position: at([1.95, KEEL - 0.08, 0]) }],
  },
  {
    id: "yard-line",
    number: 38,
    name: "Yard line",
    kind: "polyline",
    knots: ([[3.2, 0, -2.7], [-3.2, 0, -2.7], [-3.2, 0, 2.6]] as Vec3[]).map((place) => ({ position: at(place) })), // prettier-ignore
  },
  { id: "strakes", number: 35, name: "Strakes", kind: "between", pairs: "across", lines: RIB_IDS, parts: 12 },
  {
    id: "thwarts",
    number: 36,
    name: "Thwarts",
    kind: "between",
    pairs: "along",
    lines: RIB_IDS.slice(1, 5),
    parts: 6,
    skip: 6,
    clearFrom: 0.05,
    clearTo: 0.05,
  },
  {
    id: "festoons",
    number: 37,
    name: "Festoons",
    kind: "between",
    pairs: "snaps",
    dressing: "lamp-posts",
    snap: "hook",
    form: "hanging",
    sag: 0.5,
  },
];

export const BOATYARD_DRESSINGS = [
  {
    id: "rib-timbers",
    name: "Rib timbers",
    where: { lines: [...RIB_IDS, "keel"] },
    what: { entries: [{ prop: "timber" }] },
    spacing: { by: "each" },
    stance: { meetsUp: "centre", up: "line" },
    fit: { bend: true },
  },
  {
    id: "strake-planks",
    name: "Strake planks",
    where: { lines: ["strakes"] },
    what: { entries: [{ prop: "plank" }] },
    spacing: { by: "each" },
    // Flat against the hull: up is away from its inside.
    stance: { up: "point", point: at([0, 0.95, 0]) },
  },
  {
    id: "thwart-boards",
    name: "Thwart boards",
    where: { lines: ["thwarts"] },
    what: { entries: [{ prop: "timber" }] },
    spacing: { by: "each", each: "snaps" },
    stance: { meetsUp: "centre" },
  },
  {
    id: "yard-fence",
    name: "Yard fence",
    ...FENCED,
    // The recipe reckons with panels that are long from left to right; this one is from back to front.
    what: { ...FENCED.what, own: [{ prop: "rail-panel", turn: -Math.PI / 2 }] },
  },
  {
    id: "festoon-bulbs",
    name: "Festoon bulbs",
    where: { lines: ["festoons"] },
    what: { entries: [{ prop: "bulb" }] },
    spacing: { distance: 0.42, remainder: "shared", fromStart: 0.25, fromEnd: 0.25 },
    stance: { up: "plumb", meetsUp: "top" },
  },
];
