/** *Gullhaven Regatta*, the scene that everyone sees first: a small harbour on the day of its regatta. */
import { hashOf, readPropFile, type Assets } from "@/core/files";
import { sceneSchema, SCENE_VERSION, type Scene } from "@/core/scene";
import type { Vec3 } from "@/core/math";
import { boat, lighthouse, mast, MAST_ROPE, quay, QUAY_HEIGHT, shore, water } from "./harbour";
import { bollard, crate, lantern, pennant, raceBuoy } from "./props";
import type { MeshBuilder } from "./shapes";

/** The demo scene's id, the same in every browser. */
export const DEMO_ID = "gullhaven-regatta";

const RAD = Math.PI / 180;
const knots = (...positions: Vec3[]) => positions.map((position) => ({ position }));

/** Feet of the three masts along the quay's edge. */
const MASTS: readonly Vec3[] = [
  [-6.4, QUAY_HEIGHT, 1.5],
  [0.2, QUAY_HEIGHT, 1.5],
  [6.8, QUAY_HEIGHT, 1.5],
];
const LIGHTHOUSE: Vec3 = [-9, 0, -17];
const top = ([x, y, z]: Vec3): Vec3 => [x, y + MAST_ROPE, z];

export async function demoScene(): Promise<{ scene: Scene; assets: Assets }> {
  const assets = new Map<string, Uint8Array>();
  const asset = async (name: string, mesh: MeshBuilder) => {
    const bytes = await mesh.toGlb(name);
    const hash = hashOf(bytes);
    assets.set(hash, bytes);
    return { asset: hash, bytes };
  };
  const prop = async (id: string, name: string, mesh: MeshBuilder) => {
    const { asset: hash, bytes } = await asset(name, mesh);
    return { id, name, asset: hash, file: `${id}.glb`, ...(await readPropFile(bytes, name)) };
  };
  const surface = async (id: string, name: string, mesh: MeshBuilder, at: readonly Vec3[], ground: boolean) => {
    const { asset: hash } = await asset(name, mesh);
    return at.map((position, i) => ({
      id: at.length > 1 ? `${id}-${i + 1}` : id,
      name: at.length > 1 ? `${name} ${i + 1}` : name,
      asset: hash,
      position,
      ground,
    }));
  };

  const scene = sceneSchema.parse({
    version: SCENE_VERSION,
    name: "Gullhaven Regatta",
    props: [
      await prop("pennant-madder", "Pennant madder", pennant("#b5363f")),
      await prop("pennant-linen", "Pennant linen", pennant("#efe3cb")),
      await prop("pennant-sea", "Pennant sea", pennant("#1e6f77")),
      await prop("lantern", "Lantern", lantern()),
      await prop("bollard", "Bollard", bollard()),
      await prop("crate", "Crate", crate()),
      await prop("buoy-red", "Race buoy red", raceBuoy("#d65a3a")),
      await prop("buoy-white", "Race buoy white", raceBuoy("#f4ead6")),
    ],
    surfaces: [
      ...(await surface("quay", "Quay", quay(), [[0, 0, 0]], true)),
      ...(await surface("water", "Water", water(), [[0, 0, 0]], true)),
      ...(await surface("mast", "Mast", mast(), MASTS, false)),
      ...(await surface("lighthouse", "Lighthouse", lighthouse(), [LIGHTHOUSE], false)),
      ...(await surface("shore", "Far shore", shore(), [[0, 0, 0]], false)),
      ...(await surface("boat-blue", "Boat Petrel", boat("#1e6f77"), [[9, 0, -22]], false)),
      ...(await surface("boat-red", "Boat Gannet", boat("#b5363f"), [[24, 0, -46]], false)),
      ...(await surface("boat-ochre", "Boat Dunlin", boat("#c98a1b"), [[-34, 0, -60]], false)),
    ],
    lines: [
      {
        id: "rope-a",
        number: 1,
        name: "Mast rope A",
        kind: "hanging",
        knots: knots(top(MASTS[0]), top(MASTS[1])),
        sag: 1.05,
      },
      {
        id: "rope-b",
        number: 2,
        name: "Mast rope B",
        kind: "hanging",
        knots: knots(top(MASTS[1]), top(MASTS[2])),
        sag: 1.05,
      },
      {
        id: "rope-lighthouse",
        number: 3,
        name: "Lighthouse rope",
        kind: "hanging",
        knots: knots(top(MASTS[0]), [LIGHTHOUSE[0] + 1.2, 10.1, LIGHTHOUSE[2] + 1.2]),
        sag: 1.9,
      },
      {
        id: "quay-edge",
        number: 4,
        name: "Quay edge",
        kind: "polyline",
        knots: knots([-23, QUAY_HEIGHT + 0.04, 0.42], [23, QUAY_HEIGHT + 0.04, 0.42]),
      },
      {
        id: "crate-line",
        number: 5,
        name: "Crate line",
        kind: "smooth",
        knots: knots([3.4, QUAY_HEIGHT, 5.4], [5.4, QUAY_HEIGHT, 6.4], [8.6, QUAY_HEIGHT, 6.2]),
      },
      {
        id: "course",
        number: 6,
        name: "Race course",
        kind: "smooth",
        closed: true,
        knots: knots([-2, 0, -7], [9, 0, -8], [20, 0, -15], [17, 0, -27], [4, 0, -31], [-2, 0, -20]),
      },
    ],
    dressings: [
      {
        id: "quay-bunting",
        name: "Quay bunting",
        where: { lines: ["rope-a", "rope-b", "rope-lighthouse"] },
        what: {
          entries: [
            { prop: "pennant-madder" },
            { prop: "pennant-linen" },
            { prop: "pennant-sea" },
            { prop: "lantern" },
          ],
        },
        spacing: { distance: 0.46, fromStart: 0.35, fromEnd: 0.35, remainder: "shared" },
        stance: { meets: "hang", turnUp: 90 * RAD },
        variation: {
          seed: 41,
          turnOn: true,
          turnAlong: [-7 * RAD, 7 * RAD],
          turnAcross: [-2 * RAD, 2 * RAD],
          turnUp: [-10 * RAD, 10 * RAD],
        },
        gaps: { chance: 0.07 },
      },
      {
        id: "bollards",
        name: "Bollards",
        where: { lines: ["quay-edge"] },
        what: { entries: [{ prop: "bollard" }] },
        spacing: { distance: 2.3, fromStart: 0.5, fromEnd: 0.5, remainder: "centred" },
      },
      {
        id: "race-buoys",
        name: "Race buoys",
        where: { lines: ["course"] },
        what: {
          order: "mixed",
          entries: [
            { prop: "buoy-red", weight: 3 },
            { prop: "buoy-white", weight: 1 },
          ],
        },
        spacing: { distance: 1.9, remainder: "shared" },
        fit: { up: -0.16 },
        variation: {
          seed: 7,
          positionOn: true,
          along: [-0.2, 0.2],
          across: [-0.35, 0.35],
          up: [-0.03, 0.03],
          turnOn: true,
          turnAlong: [-9 * RAD, 9 * RAD],
          turnAcross: [-9 * RAD, 9 * RAD],
          turnUp: [-Math.PI, Math.PI],
        },
      },
      {
        id: "crates",
        name: "Crates",
        where: { lines: ["crate-line"] },
        what: { entries: [{ prop: "crate" }] },
        spacing: { by: "count", count: 5 },
        stance: { turnUp: 90 * RAD },
        variation: {
          seed: 12,
          positionOn: true,
          along: [0, 0],
          across: [-0.2, 0.2],
          up: [0, 0],
          turnOn: true,
          turnAlong: [0, 0],
          turnAcross: [0, 0],
          turnUp: [-16 * RAD, 16 * RAD],
          sizeOn: true,
          size: [0.85, 1.1],
        },
        gaps: { chance: 0 },
      },
    ],
    views: [
      { id: "quay", name: "Quay", position: [4.2, 5.4, 16.4], target: [-0.3, 3.1, -1] },
      { id: "close", name: "Close", position: [-1.6, 5.9, 6.4], target: [-3.1, 5.7, 0.6] },
    ],
  });
  return { scene, assets };
}
