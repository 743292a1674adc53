/** What is held goes along: surfaces and knots, by surfaces that move and by placements; and what cannot be held. */
import fc from "fast-check";
import { addedKey, hexOf, type Dressing } from "@/core/place";
import { fromAxisAngle, multiply, rotate, type Quat, type Vec3 } from "@/core/math";
import { evenly } from "@/core/math/testing";
import { makeLine } from "@/core/line/testing";
import {
  carriedScene,
  sceneAt,
  surfaceSchema,
  uncarried,
  type Scene,
  type Surface,
  heldBy,
  tieOfKnot,
  tieOfPeg,
  tieOfSurface,
} from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { carriedPoint, type Tie } from "@/core/tie";
import { Engine } from "./engine";
import { meshesWanted } from "./wanted";

const plane = (id: string, more: Record<string, unknown> = {}): Surface =>
  surfaceSchema.parse({ id, name: id, made: { kind: "bumps", width: 8, depth: 8, height: 0 }, ground: false, ...more });

const byBoat = (at: Vec3, stood: { position: Vec3; rotation: Quat; scale?: number }): Tie => ({
  kind: "surface",
  surface: "boat",
  at,
  stood: { scale: 1, ...stood },
});

const STILL = { position: [0, 0, 0], rotation: [0, 0, 0, 1] } as const;
const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((x, k) => x - b[k]));

/** A boat, a deck that it holds, and a rope with one end on it. */
function held(boat: Partial<Surface>): Scene {
  const tie = byBoat([1, 0, 2], STILL);
  const rope = makeLine({ kind: "polyline", knots: [[0, 5, 0], [3, 1, 1]] }); // prettier-ignore
  rope.knots[1] = { ...rope.knots[1], held: tie };
  return {
    ...harbourScene(),
    surfaces: [{ ...plane("boat"), ...boat }, plane("deck", { position: [1, 0.5, -2], held: tie })],
    lines: [...harbourScene().lines, { ...rope, id: "rope", number: 9 }],
  };
}

test("under any rigid motion of what holds it, what is held makes the very same motion, whatever is set of it besides", () => {
  fc.assert(
    fc.property(evenly(-30, 30), evenly(-3, 3), evenly(-3, 3), (x, angle, tilt) => {
      const rotation = multiply(fromAxisAngle([0, 1, 0], angle), fromAxisAngle([1, 0, 0], tilt));
      const scene = held({ position: [x, 2, -1], rotation });
      const engine = new Engine();
      engine.take(scene);
      const goes = (p: Vec3) => rotate(rotation, p).map((one, k) => one + [x, 2, -1][k]);
      const deck = engine.standOf("deck")!;
      expect(apart(deck.position, goes([1, 0.5, -2]))).toBeLessThan(1e-6);
      expect(Math.abs(rotation.reduce((sum, one, k) => sum + one * deck.rotation[k], 0))).toBeCloseTo(1, 9);
      const [from, to] = [0, 1].map((k) => engine.drawnLine("rope")!.points.at(-k)!);
      expect(apart(from, [0, 5, 0])).toBeLessThan(1e-9);
      expect(apart(to, goes([3, 1, 1]))).toBeLessThan(1e-6);
      // What is seen is what is computed, and an edit of it leads back.
      const seen = carriedScene(scene, engine.carries);
      expect(seen.surfaces[1].position).toEqual(deck.position);
      const moved = { ...seen.surfaces[1], position: [4, 4, 4] as Vec3 };
      const edited = uncarried(scene, seen, { ...seen, surfaces: [seen.surfaces[0], moved] }, engine.carries);
      expect(apart(carriedScene(edited, engine.carries).surfaces[1].position, [4, 4, 4])).toBeLessThan(1e-9);
      expect(edited.surfaces[1].rotation).toBe(scene.surfaces[1].rotation);
      expect(edited.lines).toBe(scene.lines);
      // Without what held it it stays where it is seen.
      const alone = uncarried(scene, seen, { ...seen, surfaces: [seen.surfaces[1]] }, engine.carries);
      expect(alone.surfaces[0].position).toEqual(deck.position);
    }),
    { numRuns: 40 },
  );
});

test("what a wave lifts lifts what it holds, and what stands on that; at rest nothing is carried", () => {
  const waves = { kind: "waves", length: 6, height: 1, speed: 2, pointed: 0 };
  const boat = plane("boat", { movers: [waves] });
  const scene = held(boat);
  const lamps = { ...scene.dressings[1], id: "lamps", pegs: {}, stance: { ...scene.dressings[1].stance, meetsUp: "pivot" as const }, where: { ...scene.dressings[1].where, kind: "over" as const, surfaces: ["deck"], lines: [] } }; // prettier-ignore
  scene.dressings.push(lamps);
  const engine = new Engine();
  const heights = [0, 0.7, 1.4].map((t) => {
    engine.take(sceneAt(scene, t));
    const water = engine.shapeOf("boat")!.position;
    const near = Array.from({ length: water.length / 3 }, (_, v) => v).sort((a, b) => Math.hypot(water[3 * a] - 1, water[3 * a + 2] - 2) - Math.hypot(water[3 * b] - 1, water[3 * b + 2] - 2))[0]; // prettier-ignore
    const { position, origin, count } = engine.placements("lamps")!;
    const deck = engine.standOf("deck")!;
    expect(Math.abs(deck.position[1] - 0.5 - water[3 * near + 1])).toBeLessThan(0.8);
    // They stand on the deck, wherever that is.
    const up = rotate(deck.rotation, [0, 1, 0]);
    for (let i = 0; i < count; i++) {
      const off = [0, 1, 2].map((k) => origin[k] + position[3 * i + k] - deck.position[k]);
      expect(Math.abs(off.reduce((sum, x, k) => sum + x * up[k], 0))).toBeLessThan(1e-4);
    }
    return deck.position[1];
  });
  const hull = { ...scene.surfaces[0], made: null, asset: "ab".repeat(32), movers: [] } as Surface;
  expect([...meshesWanted({ ...scene, surfaces: [hull, scene.surfaces[1]], dressings: [] })]).toEqual([hull.asset]);
  expect(new Set(heights.map((y) => y.toFixed(3))).size).toBe(3);
});

test("loose props ride on what holds them as one piece, by a surface or a prop; moved, they stay where they are put; what is gone leaves them there", () => {
  const scene = held({});
  const key = hexOf(addedKey(1));
  const crates = (peg: object, id = "crates"): Dressing => ({
    ...scene.dressings[0],
    id,
    courses: {},
    where: { ...scene.dressings[0].where, kind: "loose", lines: [] },
    stance: { ...scene.dressings[0].stance, meetsUp: "pivot", up: "world" },
    pegs: { [key]: { on: "loose", point: [2, 1, 1], prop: scene.props[0].id, added: true, ...peg } },
  });
  fc.assert(
    fc.property(evenly(-30, 30), evenly(-3, 3), evenly(-1, 1), fc.boolean(), (x, angle, tilt, second) => {
      const rotation = multiply(fromAxisAngle([0, 1, 0], angle), fromAxisAngle([1, 0, 0], tilt));
      const boat = { ...plane("boat"), position: [x, 2, -1] as Vec3, rotation };
      const goes = (p: Vec3) => rotate(rotation, p).map((one, k) => one + [x, 2, -1][k]) as unknown as Vec3;
      // One held by the boat, and another held by that one.
      const first = crates({ held: byBoat([1, 0, 1], STILL) });
      const byCrate: Tie = { kind: "placement", dressing: "crates", key, stood: { position: [2, 1, 1], rotation: [0, 0, 0, 1] } }; // prettier-ignore
      const other = crates({ point: [2, 3, 0], held: byCrate }, "more");
      const all = { ...scene, surfaces: [boat], lines: [], dressings: [first, other] };
      const engine = new Engine();
      engine.take(all);
      const [id, rest] = second ? ["more", [2, 3, 0] as Vec3] : ["crates", [2, 1, 1] as Vec3];
      const p = engine.placements(id)!;
      expect(
        apart(
          [0, 1, 2].map((k) => p.origin[k] + p.position[k]),
          goes(rest),
        ),
      ).toBeLessThan(1e-4);
      expect(apart(rotate([...p.rotation.slice(0, 4)] as unknown as Quat, [0, 1, 0]), rotate(rotation, [0, 1, 0]))).toBeLessThan(1e-5); // prettier-ignore
      const carry = new Map(engine.carries).get(tieOfPeg("crates", key))!;
      expect(apart(carriedPoint(carry, [2, 1, 1]), goes([2, 1, 1]))).toBeLessThan(1e-6);
      // Without the boat what it held stays where it is seen, and says so.
      const left = uncarried(all, all, { ...all, surfaces: [] }, engine.carries);
      expect(apart(left.dressings[0].pegs[key].point!, goes([2, 1, 1]))).toBeLessThan(1e-6);
      expect(left.dressings[1]).toBe(other);
      engine.take(left);
      expect(engine.result("crates")!.findings.map(({ check }) => check)).toContain("lost-tie");
    }),
    { numRuns: 25 },
  );
  const own: Tie = {
    kind: "placement",
    dressing: "crates",
    key,
    stood: { position: [0, 0, 0], rotation: [0, 0, 0, 1] },
  };
  const engine = new Engine();
  engine.take({ ...scene, dressings: [crates({ held: own })] });
  expect(
    engine
      .result("crates")!
      .findings.map(({ message }) => message.join(""))
      .join(),
  ).toMatch(/hangs on it in turn/);
});

test("a surface rides on a prop that travels, known by its key; when that is gone it stays, and its dressings say so", () => {
  const scene = held({});
  const [buoys] = scene.dressings;
  const engine = new Engine();
  engine.take(scene);
  const { key, position, rotation, origin } = engine.placements(buoys.id)!;
  const stood = { position: [0, 1, 2].map((k) => origin[k] + position[k]) as unknown as Vec3, rotation: [...rotation.slice(0, 4)] as unknown as Quat }; // prettier-ignore
  const tie: Tie = { kind: "placement", dressing: buoys.id, key: hexOf(key[0]), stood };
  const on = (more: Partial<typeof buoys>, held: Tie): Scene => ({
    ...scene,
    surfaces: [scene.surfaces[0], { ...scene.surfaces[1], held }],
    dressings: [{ ...buoys, ...more }, { ...scene.dressings[1], id: "lamps", pegs: {}, where: { ...buoys.where, kind: "over", surfaces: ["deck"], lines: [] } }], // prettier-ignore
  });
  const deckOf = (of: Scene): Vec3 => {
    engine.take(of);
    return engine.standOf("deck")!.position;
  };
  const start = deckOf(on({}, tie));
  expect(start).toEqual([1, 0.5, -2]);
  const moved = deckOf(on({ spacing: { ...buoys.spacing, travel: 0.4 } }, tie));
  const now = engine.placements(buoys.id)!;
  const i = now.key.indexOf(key[0]);
  expect(apart(moved, start)).toBeCloseTo(apart([0, 1, 2].map((k) => now.origin[k] + now.position[3 * i + k]), stood.position), 5); // prettier-ignore
  const gone = on({}, { ...tie, key: "deadbeef" });
  expect(deckOf(gone)).toEqual(start);
  const said = (of: Scene) => {
    engine.take(of);
    return engine.result("lamps")!.findings.filter(({ check }) => check === "lost-tie").map(({ message }) => message.join("")); // prettier-ignore
  };
  expect(said(on({}, tie))).toEqual([]);
  expect(said(gone)[0]).toMatch(/something that is gone/);
  // Held by a prop that stands on it: refused, named, and nothing hangs on itself.
  const circle = on({}, { ...tie, dressing: "lamps" });
  expect(deckOf(circle)).toEqual(start);
  expect(said(circle)[0]).toMatch(/hangs on it in turn/);
  const both = { ...scene, surfaces: [{ ...scene.surfaces[0], held: { ...byBoat([0, 0, 0], STILL), surface: "deck" } as Tie }, scene.surfaces[1]] }; // prettier-ignore
  expect(deckOf(both)).toEqual(start);
  expect([heldBy(tieOfSurface("a/b")), heldBy(tieOfKnot("x/y/", 12)), heldBy(tieOfPeg("d/e", "0a"))]).toEqual([{ surface: "a/b" }, { line: "x/y/", knot: 12 }, { dressing: "d/e", key: "0a" }]); // prettier-ignore
});
