/**
 * *Rules taken elsewhere*: whatever they say, all comes to stand there just as it stood, or it is said why it would not.
 * `ELSEWHERE=500 npx jest elsewhere` tries more.
 */
import { multiply, rotate, fromAxisAngle, type Quat, type Vec3 } from "@/core/math";
import { dressingSchema, FLAG, standingAt, type Dressing, type Placements } from "@/core/place";
import { partsElsewhere, type Scene } from "@/core/scene";
import { carriedPoint, type Carry } from "@/core/tie";
import { Engine } from "./engine";
import { edit } from "./fuzz/edits";
import { fuzzScene, teach } from "./fuzz/scene";
import { Dice } from "./fuzz/values";

/** Nothing in it moves, and nothing is dealt over what is made of something else. */
function still(scene: Scene): Scene {
  const rest = <T extends { courses: object }>(thing: T): T => ({ ...thing, courses: {} });
  return {
    ...scene,
    lines: scene.lines.flatMap((line) => [
      rest(line),
      ...(line.id === "ring" ? [{ ...rest(line), id: "flat", number: 99 }] : []),
    ]),
    // What is laid on a roof that ends in the air is so by a hair.
    surfaces: scene.surfaces.map((surface) => ({
      ...rest(surface),
      movers: [],
      rest: undefined,
      ground: surface.ground && surface.id !== "roof",
    })),
    dressings: scene.dressings.map((one) =>
      rest({
        ...one,
        where: {
          ...one.where,
          surfaces: one.where.surfaces.filter((id) => id !== "copy" && id !== "roof"),
          areas: one.where.areas.map((id) => (one.where.kind === "patch" ? "flat" : id)),
        },
        gaps: { ...one.gaps, images: [] },
        sown: [],
        variation:
          one.where.kind === "loose" ? { ...one.variation, wanderOn: false, positionOn: false } : one.variation,
      }),
    ),
  };
}

/** Where the things of a dressing stand, by key: where, and which ways their up and front lead. */
function standing(p: Placements, by: Carry | null): Map<string, { prop: string | null; at: Vec3[] }> {
  return new Map(
    [...p.key.keys()]
      .filter((i) => !(p.flags[i] & FLAG.blank))
      .map((i) => {
        const { prop, position, rotation, scale } = standingAt(p, i);
        const turn: Quat = by ? multiply(by.turn, rotation) : rotation;
        const at = [
          by ? carriedPoint(by, position) : position,
          rotate(turn, [0, 1, 0]),
          rotate(turn, [0, 0, 1]),
          scale,
        ];
        return [`${p.key[i]}`, { prop, at }] as const;
      }),
  );
}

const far = (a: readonly Vec3[], b: readonly Vec3[]) => Math.max(...a.map((one, n) => Math.hypot(...one.map((x, k) => x - b[n][k])))); // prettier-ignore

async function evaluated(scene: Scene): Promise<Engine> {
  const engine = new Engine();
  await teach(engine);
  engine.evaluate(scene);
  return engine;
}

const CASES = Number(process.env.ELSEWHERE ?? 8);
const up = (angle: number) => fromAxisAngle([0, 1, 0], angle);
const never = () => false;

const but = (scene: Scene, id: string, change: (dressing: Dressing) => object): Scene => ({
  ...scene,
  dressings: scene.dressings.map((one) => (one.id === id ? { ...one, ...change(one) } : one)),
});

/** Moves a scene, by its parts, and compares all that stands with what stood; how much that is. */
async function compared(scene: Scene, by: Carry, what: unknown): Promise<number> {
  const { parts, trouble } = partsElsewhere(scene, by, never, () => 0, never);
  if (!parts) {
    expect([what, trouble]).toEqual([what, expect.stringMatching(/faces the nearest line/)]);
    return 0;
  }
  const [here, there] = [await evaluated(scene), await evaluated({ ...scene, ...parts })];
  let all = 0;
  for (const { id } of scene.dressings) {
    const [a, b] = [standing(here.result(id)!.placements, by), standing(there.result(id)!.placements, null)];
    const off = [...a].filter(([key, one]) => b.get(key)?.prop !== one.prop || far(b.get(key)!.at, one.at) > 2e-3);
    all += a.size;
    // By a hair two of them touch, or do not.
    const few = 0.02 * Math.max(a.size, b.size);
    expect([what, id, off.length <= few, Math.abs(a.size - b.size) <= few]).toEqual([what, id, true, true]);
  }
  return all;
}

/** What says where or which way it is in the room, each so that something hangs on it. */
const SAYING: Record<string, (scene: Scene) => Scene> = {
  heading: (scene) => but(scene, "a", ({ stance }) => ({ stance: { ...stance, forward: "heading", heading: 0.6 } })),
  point: (scene) => but(scene, "a", ({ stance }) => ({ stance: { ...stance, forward: "point", point: [3, 1, 2] } })),
  facing: (scene) =>
    but(scene, "c", ({ gaps }) => ({ gaps: { ...gaps, facingOn: true, facing: 0.5, facingWithin: 0.9 } })),
  height: (scene) => but(scene, "c", ({ gaps }) => ({ gaps: { ...gaps, heightOn: true, height: [-0.9, 0.1] } })),
  floor: (scene) =>
    but(scene, "a", ({ fit }) => ({
      fit: { ...fit, drop: "down", onto: ["crate-hold"], without: "floor", floor: -0.4 },
    })),
  follower: (scene) => {
    const stood = { position: [1, 0.5, -2] as const, rotation: up(0.4) };
    const dropped = but(scene, "e", ({ fit }) => ({
      fit: { ...fit, onto: ["roof"], drop: "nearest", dropAs: "each" },
    }));
    return { ...dropped, surfaces: dropped.surfaces.map((one) => (one.id === "roof" ? { ...one, ...stood } : one)) };
  },
};

test("rules that are taken elsewhere come to the same there", async () => {
  const dice = new Dice(7);
  let all = 0;
  for (const [what, change] of Object.entries(SAYING))
    all += await compared(change(still(fuzzScene())), { turn: up(0.7), from: [0, 0, 0], to: [4, 2, -6] }, what);
  for (let n = 0; n < CASES; n++) {
    let scene = fuzzScene();
    for (let k = 0; k < 3; k++) scene = edit(scene, dice, 3 * n + k, () => undefined).scene;
    const turn = up(n % 3 === 0 ? 0 : 0.7 * n);
    const by: Carry = { turn, from: [0, 0, 0], to: [4 * dice.below(5), dice.below(3), -2 * dice.below(4)] };
    all += await compared(still(scene), by, n);
  }
  expect(all).toBeGreaterThan(60 * CASES);
});

test("where they would come to something else, it is said why; grounds that are any are those that come along", () => {
  const scene = still(fuzzScene());
  const go = (parts: Scene, turn = up(0), taken: (n: number) => boolean = never) =>
    partsElsewhere(
      parts,
      { turn, from: [0, 0, 0], to: [1, 2, 3] },
      taken,
      () => 7,
      (prop) => prop !== "any",
    );
  expect(go(scene, fromAxisAngle([1, 0, 0], 0.1)).trouble).toBe("it leans");
  expect(go(fuzzScene()).trouble).toBe("something in it moves");
  expect(go({ ...scene, surfaces: [] }).trouble).toMatch(/ground that is not there/);
  expect(go(but(scene, "a", ({ where }) => ({ where: { ...where, lines: ["quay", "flat"] } }))).trouble).toMatch(/outline on a sheet/); // prettier-ignore
  expect(go(but(scene, "c", ({ where }) => ({ where: { ...where, surfaces: ["roof"] } }))).trouble).toMatch(/“c” is dealt by places/); // prettier-ignore
  const pins = but(scene, "e", ({ where }) => ({ where: { ...where, kind: "pinned", surfaces: ["roof"] } }));
  expect(go(pins).trouble).toMatch(/“e” is dealt by places/);
  const edges = scene.lines.map((line) => (line.id === "rim" ? { ...line, laid: { ...line.laid, on: "roof" } } : line)) as Scene["lines"]; // prettier-ignore
  expect(go({ ...scene, lines: edges }).trouble).toMatch(/held by a place/);
  const wanders = but(scene, "e", ({ variation }) => ({ variation: { ...variation, positionOn: true } }));
  expect([go(wanders).trouble, go(wanders, up(1)).trouble]).toEqual([null, "“e” is moved by where it is"]);
  const sowed = but(scene, "e", () => ({ sown: fuzzScene().dressings.find(({ id }) => id === "e")!.sown }));
  expect(go(sowed).parts!.dressings.find(({ id }) => id === "e")!.sown[0].from).toEqual([1, 3.5, 3]);
  expect(go(sowed, up(1)).trouble).toMatch(/cannot be turned/);
  // Lines with another number are dealt anew, where anything is.
  const ring = but(scene, "b", ({ where }) => ({ where: { ...where, lines: ["rope"] } }));
  const isRing = (number: number) => number === 3;
  expect(go(scene, up(0), isRing).trouble).toBe("“b” would be dealt anew");
  const { parts } = go(ring, up(0), isRing);
  expect(parts!.lines.map(({ number }) => number)).toEqual(
    scene.lines.map(({ number }) => (number === 3 ? 7 : number)),
  );
  const onGround = parts!.lines.find(({ id }) => id === "path")!;
  expect(onGround).toMatchObject({ laid: { on: ["hill", "plane", "copy"] } });
  expect(parts!.dressings.find(({ id }) => id === "e")!.fit.onto).toEqual(["hill", "plane", "copy"]);
  // One prop and no chance is the same under any number; a mix is not.
  const plain = (prop: string, more: object = {}) =>
    but(scene, "b", ({ id, name }) => dressingSchema.parse({ id, name, where: { lines: ["ring"] }, what: { entries: [{ prop }] }, ...more })); // prettier-ignore
  const troubles = [plain("buoy"), plain("any"), plain("buoy", { variation: { turnOn: true } }), plain("buoy", { gaps: { chance: 0.1 } })]; // prettier-ignore
  const anew = "“b” would be dealt anew";
  expect(troubles.map((one) => go(one, up(0), isRing).trouble)).toEqual([null, anew, anew, anew]);
});
