/** *Gullhaven Regatta*, the scene that everyone sees first: a small harbour on the day of its regatta. */
import { BASKET_OF_CATCH, mackerel } from "./catch";
import { duckGlb } from "./ducks";
import { hashOf, readPropFile, type Assets } from "@/core/files";
import { sceneSchema, SCENE_VERSION, type Scene } from "@/core/scene";
import type { Vec3 } from "@/core/math";
import { DRESSINGS } from "./dressings";
import { DEMO_NAME } from "./name";
import { flyingGull, gull, kite, lavenderTub, netPile } from "./hill-props";
import { boat, lighthouse, lighthouseCap, mast, quay, shore, water } from "./harbour";
import { hillside, steps } from "./hillside";
import { LINES } from "./lines";
import { beltStand, flag, flagstaff, mainsail, paver, sailNumber, STAFF_HEIGHT, starBadge } from "./moving";
import {
  BARREL,
  CREST_FLOAT,
  FLAGSTAFF,
  FRONT,
  LIFEBUOY,
  LIGHTHOUSE,
  LOBSTER_POT,
  MARKET_BELT,
  MASTS,
  MOORING_BUOY,
  OAR_RACK,
  PETREL,
  STALL,
} from "./places";
import {
  awning,
  bollard,
  caneBasket,
  cork,
  crate,
  glassFloat,
  lampPost,
  lantern,
  oar,
  pennant,
  raceBuoy,
  railPanel,
  railPost,
} from "./props";
import { brassStud, crest, shingle } from "./fittings";
import { LETTERS, letter } from "./letters";
import {
  barrel,
  barrelHoops,
  crestFloat,
  harbourFront,
  lifebuoy,
  mooringBuoy,
  mooringEye,
  oarRack,
  potRing,
} from "./quayside";
import type { MeshBuilder } from "./shapes";
import { bulb, plank, timber } from "./boatyard";
import { jar, loaf, stall } from "./stall";

/** Surfaces that props may go into: buoys float in the water, ropes are tied round masts, oars lie in their rack. */
const PASSABLE = ["water", "mast", "lifebuoy", "oar-rack", "petrel-sail", "belt-stand"];

/** A boat, or what belongs to it, that rolls gently on the water. */
const rocking = <T extends object>(surface: T) => ({
  ...surface,
  courses: {
    rotation: {
      keyframes: [-1, 1].map((side, i) => ({
        at: 2.5 * i,
        value: [Math.sin(0.022 * side), 0, 0, Math.cos(0.022 * side)],
        go: "smooth" as const,
      })),
      before: "hold" as const,
      after: "toAndFro" as const,
    },
  },
});

export async function makeDemo(): Promise<{ scene: Scene; assets: Assets }> {
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
  const duck = async (): Promise<Record<string, unknown>> => {
    const bytes = await duckGlb("Duck");
    const hash = hashOf(bytes);
    assets.set(hash, bytes);
    return { id: "duck", name: "Duck", asset: hash, file: "duck.glb", ...(await readPropFile(bytes, "Duck")) };
  };
  const surface = async (id: string, name: string, mesh: MeshBuilder, at: readonly Vec3[], ground: boolean) => {
    const { asset: hash, bytes } = await asset(name, mesh);
    const { triangles } = await readPropFile(bytes, name);
    return at.map((position, i) => ({
      id: at.length > 1 ? `${id}-${i + 1}` : id,
      name: at.length > 1 ? `${name} ${i + 1}` : name,
      asset: hash,
      position,
      ground,
      solid: !PASSABLE.includes(id),
      triangles,
      file: `${id}.glb`,
    }));
  };

  const scene = sceneSchema.parse({
    version: SCENE_VERSION,
    name: DEMO_NAME,
    props: [
      await prop("pennant-madder", "Pennant madder", pennant("#b5363f")),
      await prop("pennant-linen", "Pennant linen", pennant("#efe3cb")),
      await prop("pennant-sea", "Pennant sea", pennant("#1e6f77")),
      await prop("lantern", "Lantern", lantern()),
      await prop("bollard", "Bollard", bollard()),
      await prop("crate", "Crate", crate()),
      await prop("buoy-red", "Race buoy red", raceBuoy("#d65a3a")),
      await prop("buoy-white", "Race buoy white", raceBuoy("#f4ead6")),
      await prop("rail-panel", "Rail panel", railPanel()),
      await prop("rail-post", "Rail post", railPost()),
      await prop("glass-float", "Glass float", glassFloat()),
      await prop("awning-madder", "Awning madder", awning("#b5363f")),
      await prop("awning-sea", "Awning sea", awning("#1e6f77")),
      await prop("oar", "Oar", oar()),
      await prop("cork-light", "Cork light", cork("#c79a63")),
      await prop("cork-dark", "Cork dark", cork("#8f6238")),
      {
        ...(await prop("lamp-post", "Lamp post", lampPost())),
        prepared: { snaps: [{ name: "hook", position: [0.09, 2.15, 0], direction: [0, -1, 0] }] },
      },
      // It stands on its bottom, which is narrower than its rim.
      { ...(await prop("cane-basket", "Cane basket", caneBasket())), prepared: { footprint: [0.32, 0.32] } },
      await prop("mackerel", "Mackerel", mackerel()),
      BASKET_OF_CATCH,
      await prop("lavender-tub", "Lavender tub", lavenderTub()),
      await prop("net-pile", "Net pile", netPile()),
      await prop("gull", "Gull", gull()),
      await prop("gull-flying", "Gull in flight", flyingGull()),
      await prop("kite-madder", "Kite madder", kite("#b5363f")),
      await duck(),
      await prop("paver", "Paver", paver()),
      await prop("star-badge", "Star badge", starBadge()),
      await prop("sail-number", "Sail number", sailNumber()),
      await prop("brass-stud", "Brass stud", brassStud()),
      await prop("shingle", "Shingle", shingle()),
      await prop("crest", "Crest", crest()),
      await prop("pot-ring", "Pot ring", potRing()),
      ...(await Promise.all(
        LETTERS.map((name) => prop(`letter-${name.toLowerCase()}`, `Letter ${name}`, letter(name))),
      )),
      await prop("jar-honey", "Jar of honey", jar("#c98a1b")),
      await prop("jar-plum", "Jar of plums", jar("#7e2831")),
      await prop("loaf", "Loaf", loaf()),
      await prop("timber", "Timber", timber()),
      await prop("plank", "Plank", plank()),
      await prop("bulb", "Festoon bulb", bulb()),
      await prop("kite-ochre", "Kite ochre", kite("#c98a1b")),
    ],
    mixes: [
      {
        id: "corks",
        name: "Corks",
        props: [
          { prop: "cork-light", weight: 3 },
          { prop: "cork-dark", weight: 1 },
        ],
      },
    ],
    surfaces: [
      ...(await surface("quay", "Quay", quay(), [[0, 0, 0]], true)),
      ...(await surface("water", "Water", water(), [[0, 0, 0]], true)).map((sea) => ({
        ...sea,
        movers: [
          { kind: "waves", id: 0, name: "Swell", length: 10, height: 0.16, heading: 2.9, speed: 2.2, pointed: 0.5 },
          { kind: "waves", id: 1, name: "Ripples", length: 3.7, height: 0.05, heading: 2.3, speed: 1.4, pointed: 0.3 },
        ],
      })),
      ...(await surface("mast", "Mast", mast(), MASTS, false)),
      ...(await surface("lighthouse", "Lighthouse", lighthouse(), [LIGHTHOUSE], false)),
      ...(await surface("lighthouse-cap", "Lighthouse cap", lighthouseCap(), [LIGHTHOUSE], false)),
      ...(await surface("lifebuoy", "Lifebuoy", lifebuoy(), [LIFEBUOY], false)),
      ...(await surface("mooring-buoy", "Mooring buoy", mooringBuoy(), [MOORING_BUOY], false)),
      ...(await surface("mooring-eye", "Mooring eye", mooringEye(), [MOORING_BUOY], false)),
      ...(await surface("crest-float", "Crest float", crestFloat(), [CREST_FLOAT], false)),
      ...(await surface("barrel", "Barrel", barrel(), [BARREL], false)),
      ...(await surface("barrel-hoops", "Barrel's hoops", barrelHoops(), [BARREL], false)),
      {
        id: "pot-bell",
        name: "Pot's bell",
        made: { kind: "revolve", line: "pot-profile", through: LOBSTER_POT },
        ground: false,
        solid: false,
        hidden: true,
      },
      {
        id: "pot-hoops",
        name: "Pot's hoops",
        made: { kind: "tube", lines: ["pot-hoop-1", "pot-hoop-2"], radius: 0.014, sides: 8 },
        ground: false,
        hidden: true,
      },
      {
        id: "lobster-pot",
        name: "Lobster pot",
        made: {
          kind: "solid",
          parts: [
            { id: 0, of: "pot-rings" },
            { id: 1, of: "pot-hoops" },
          ],
        },
        ground: false,
      },
      ...(await surface("oar-rack", "Oar rack", oarRack(), [OAR_RACK], false)),
      ...(await surface("stall", "Stall", stall(), [STALL], false)),
      ...(await surface("front", "Harbour front", harbourFront(), [FRONT], false)).map((front) => ({
        ...front,
        rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2],
      })),
      ...(await surface("hillside", "Hillside", hillside(), [[0, 0, 0]], true)),
      ...(await surface("steps", "Steps", steps(), [[0, 0, 0]], true)),
      ...(await surface("shore", "Far shore", shore(), [[0, 0, 0]], false)),
      {
        id: "kite-sky",
        name: "Sky for kites",
        made: { kind: "box", width: 34, height: 7, depth: 16 },
        position: [8, 9.5, -30],
        ground: false,
        outline: true,
      },
      ...(await surface("boat-blue", "Boat Petrel", boat("#1e6f77", false), [PETREL], false)).map(rocking),
      ...(await surface("petrel-sail", "Petrel's sail", mainsail(), [PETREL], false)).map((sail) => ({
        ...sail,
        // By the foot of the mast: it rides on the hull.
        held: {
          kind: "surface",
          surface: "boat-blue",
          at: [0.42, 0.62, 0],
          stood: { position: PETREL, rotation: [0, 0, 0, 1], scale: 1 },
        },
        movers: [
          { kind: "billow", id: 0, depth: 0.55, breath: 0.35, every: 5, held: ["right", "bottom"] },
          {
            kind: "waves",
            id: 1,
            name: "Flutter",
            along: "normal",
            length: 0.9,
            height: 0.05,
            speed: 1.6,
            heading: Math.PI,
            limits: { uOn: true, u: [0, 0.12], uSoft: 0.2 },
          },
        ],
      })),
      ...(await surface("flagstaff", "Flagstaff", flagstaff(), [FLAGSTAFF], false)),
      ...(
        await surface(
          "flag",
          "Flag",
          flag(),
          [[FLAGSTAFF[0] + 0.05, FLAGSTAFF[1] + STAFF_HEIGHT - 1.3, FLAGSTAFF[2]]],
          false,
        )
      ).map((one) => ({
        ...one,
        movers: [
          {
            kind: "waves",
            id: 0,
            along: "normal",
            length: 1.3,
            height: 0.3,
            heading: 0.25,
            speed: 1.7,
            held: ["left"],
            soft: 1.3,
          },
        ],
      })),
      ...(await surface("belt-stand", "Belt's rollers", beltStand(), [MARKET_BELT], false)),
      {
        id: "market-belt",
        name: "Market belt",
        made: { kind: "band", line: "belt-loop", breadth: 0.6, thickness: 0, onceIn: 24 },
        ground: false,
        solid: false,
      },
      ...(await surface("boat-red", "Boat Gannet", boat("#b5363f"), [[24, 0, -46]], false)),
      ...(await surface("boat-ochre", "Boat Dunlin", boat("#c98a1b"), [[-34, 0, -60]], false)),
    ],
    lines: LINES,
    dressings: DRESSINGS,
    views: [
      { id: "quay", name: "Quay", position: [4.2, 5.4, 16.4], target: [-0.3, 3.1, -1] },
      { id: "front", name: "Front", position: [12.6, 4.3, 13.2], target: [21.4, 3, 6.4] },
      { id: "hill", name: "Hill", position: [-17.5, 6.2, 17.5], target: [-33, 4.2, 4.5] },
      { id: "sail", name: "Sail", position: [8, 4.4, -11.9], target: [8.3, 3.6, -22] },
      { id: "belt", name: "Belt", position: [12.9, 3.7, 14.2], target: [14.1, 1.9, 8.9] },
      { id: "buoy", name: "Buoy", position: [-1.9, 3.0, 7.9], target: [-3.2, 1.75, 4.7] },
      { id: "light", name: "Light", position: [-6.1, 13.1, -12.7], target: [-9, 12.15, -17] },
      { id: "stall", name: "Stall", position: [9.9, 3.35, 7.6], target: [9.1, 2.2, 4.3] },
      { id: "boatyard", name: "Boatyard", position: [-9.6, 3.6, 10.9], target: [-11.1, 1.9, 6.4] },
      { id: "close", name: "Close", position: [-1.6, 5.9, 6.4], target: [-3.1, 5.7, 0.6] },
    ],
  });
  return { scene, assets };
}
