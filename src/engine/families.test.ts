/** Families of lines, and ties to snap points and to places of lines: what goes between and what is tied goes along. */
import { fromAxisAngle, rotate, type Vec3 } from "@/core/math";
import { makeLine } from "@/core/line/testing";
import { fromStand, intoOwn } from "@/core/mesh";
import { addedKey, HANDLE, hexOf, lineKey, standingAt } from "@/core/place";
import { sceneAt, sceneSchema, tieOfPeg, uncarried, snapPointsOf, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { carriedPoint, carryBetween, type Tie, snapFrame } from "@/core/tie";
import { Engine } from "./engine";

const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((x, k) => x - b[k]));
const endsOf = (engine: Engine, id: string): [Vec3, Vec3] => {
  const { points } = engine.drawnLine(id)!;
  return [points[0], points[points.length - 1]];
};
const membersOf = (engine: Engine, id: string) => engine.families.get(id)!.lines;

/** The harbour with a hook on its first prop, and more lines and dressings. */
function harbour(lines: object[], dressings: object[] = [], more: object = {}): Scene {
  const scene = harbourScene();
  const [prop, ...others] = scene.props;
  const hook = { name: "hook", position: [0.1, 0.5, 0.05], direction: [0, 0, 1] };
  return sceneSchema.parse({
    ...scene,
    props: [{ ...prop, prepared: { ...prop.prepared, snaps: [hook] } }, ...others],
    lines: [
      ...scene.lines,
      ...lines.map((line, i) =>
        makeLine({ id: `line ${i}`, number: 50 + i, kind: "between", knots: [], ...line } as never),
      ),
    ],
    dressings: [...scene.dressings, ...dressings],
    ...more,
  });
}

const row = (id: string, prop: string, more: object = {}) => ({
  id,
  name: id,
  where: { lines: ["row"] },
  what: { entries: [{ prop }] },
  spacing: { distance: 1.5 },
  ...more,
});
const straight = { id: "row", kind: "polyline", knots: [[0, 0, 0], [12, 0, 3]] }; // prettier-ignore
const swags = { id: "swags", pairs: "snaps", dressing: "posts", snap: "hook", form: "hanging", sag: 0.3 };

test("beams between divisions of a circle have the chord's length, each division to the next or to the k-th, once", () => {
  for (const [parts, skip] of [
    [12, 1],
    [12, 5],
    [7, 3],
    [12, 6],
  ]) {
    // prettier-ignore
    const round = { id: "round", kind: "circle", knots: [[1, 2, 3]], radius: 2.5 };
    const scene = harbour([round, { id: "beams", pairs: "along", lines: ["round"], parts, skip }]);
    const engine = new Engine();
    engine.take(scene);
    const beams = membersOf(engine, "beams");
    expect(beams).toHaveLength(2 * skip === parts ? parts / 2 : parts);
    for (const { id } of beams)
      expect(apart(...endsOf(engine, id))).toBeCloseTo(2 * 2.5 * Math.sin((Math.PI * skip) / parts), 6);
  }
});

test("from line to line it goes straight across, shifted or crosswise, by divisions of members too, clear of both ends", () => {
  const rib = (id: string, x: number) => ({ id, kind: "polyline", knots: [[x, 0, 0], [x, 4, 0]] }); // prettier-ignore
  const across = { id: "across", pairs: "across", lines: ["a", "b"], parts: 4, marks: 2, clearFrom: 0.1, clearTo: 0.2 };
  const scene = harbour([
    rib("a", 0),
    rib("b", 3),
    across,
    { id: "shifted", pairs: "across", lines: ["a", "b"], parts: 4, shift: 1 },
    { id: "crossing", pairs: "crossing", lines: ["a", "b"], parts: 4 },
    { id: "struts", pairs: "across", lines: ["across"], shift: 0 },
    { id: "round", pairs: "across", lines: ["round", "struts"] },
  ]);
  const engine = new Engine();
  engine.take(scene);
  const ends = (id: string) => membersOf(engine, id).map((one) => endsOf(engine, one.id));
  ends("across").forEach(([from, to], i) => {
    expect(apart(from, [0.1, i, 0])).toBeLessThan(1e-9);
    expect(apart(to, [2.8, i, 0])).toBeLessThan(1e-9);
  });
  expect(ends("shifted").map(([[, from], [, to]]) => to - from)).toEqual([1, 1, 1, 1]);
  expect(ends("crossing").map(([[, from], [, to]]) => to - from)).toEqual([1, 1, 1, 1, -1, -1, -1, -1]);
  // From beam to beam, at both ends and in their middles.
  expect(ends("struts")).toHaveLength(4 * 3);
  expect(ends("struts")[1].map(([x]) => x)).toEqual([expect.closeTo(1.45), expect.closeTo(1.45)]);
  const near = { ...across, clearFrom: 2, clearTo: 1.5 };
  engine.take(harbour([rib("a", 0), rib("b", 3), near]));
  expect(engine.families.get("across")).toMatchObject({ lines: [], tooNear: 5 });
  engine.take(harbour([{ id: "round", pairs: "across", lines: ["round", "row"] }, straight]));
  expect(engine.families.get("round")).toMatchObject({ lines: [], inCircle: true });
  // What faces the nearest line hangs on all of them.
  const field = { id: "field", name: "field", made: { kind: "bumps" } };
  const facing = row("posts", harbourScene().props[0].id, {
    where: { kind: "over", surfaces: ["field"] },
    stance: { forward: "line" },
  });
  engine.take(harbour([swags], [facing], { surfaces: [field] }));
  expect(engine.families.get("swags")).toMatchObject({ lines: [], inCircle: true });
  // And what lies on any ground, on all of it: here on what is made of it.
  const ground = { id: "t", name: "t", made: { kind: "tube", lines: ["onto"], radius: 0.1 }, ground: true };
  const onto = { id: "onto", pairs: "across", lines: ["a", "b"], parts: 2, form: "surface" };
  engine.take(harbour([rib("a", 0), rib("b", 3), onto], [], { surfaces: [ground] }));
  expect(engine.solids.get("t")).toMatchObject({ troubles: [{ kind: "circle", of: "onto" }] });
});

test("between snap points of props it hangs from one to the next wherever they stand, and another prop re-deals nothing", () => {
  const scene = harbour(
    [straight, swags],
    [
      row("posts", harbourScene().props[0].id, { stance: { turnUp: 0.4 } }),
      row("beads", harbourScene().props[1].id, { where: { lines: ["swags"] }, spacing: { by: "count", count: 4 } }),
    ],
  );
  const engine = new Engine();
  engine.take(scene);
  const posts = engine.placements("posts")!;
  const hook = snapPointsOf(scene.props[0])[0];
  const members = membersOf(engine, "swags");
  expect(members).toHaveLength(posts.count - 1);
  members.forEach(({ id }, i) => {
    const both = [i, i + 1].map((k) => snapFrame(standingAt(posts, k), hook).position);
    endsOf(engine, id).forEach((end, k) => expect(apart(end, both[k])).toBeLessThan(1e-6));
  });
  const keysOf = () => new Set([...engine.placements("beads")!.key].map(hexOf));
  const before = keysOf();
  expect(before.size).toBe(4 * members.length);
  const [first] = scene.lines.filter(({ id }) => id === "row");
  const longer = { ...first, knots: [first.knots[0], { ...first.knots[1], position: [15, 0, 3.75] }] };
  engine.take({ ...scene, lines: scene.lines.map((one) => (one === first ? longer : one)) as Scene["lines"] });
  const after = keysOf();
  expect(after.size).toBeGreaterThan(before.size);
  expect([...before].every((key) => after.has(key))).toBe(true);
});

test("each to the next goes round a closed line, and through what was put or moved between others by hand", () => {
  const prop = harbourScene().props[0].id;
  const round = { id: "row", kind: "circle", knots: [[0, 0, 0]], radius: 3 };
  const engine = new Engine();
  engine.take(harbour([round, swags], [row("posts", prop, { spacing: { by: "count", count: 7 } })]));
  expect(membersOf(engine, "swags")).toHaveLength(7);
  const bare = harbour([straight, swags], [row("posts", prop)]);
  engine.take(bare);
  const second = hexOf(engine.placements("posts")!.key[1]);
  const number = bare.lines.find(({ id }) => id === "row")!.number;
  const pegs = {
    [hexOf(lineKey(number, 2 ** 30))]: { on: "row", at: 8, prop, added: true },
    [second]: { on: "row", at: 10 },
  };
  engine.take(harbour([straight, swags], [row("posts", prop, { pegs })]));
  const posts = engine.placements("posts")!;
  const order = [...posts.at.keys()].sort((i, j) => posts.at[i] - posts.at[j]);
  const hook = snapPointsOf(bare.props[0])[0];
  const ends = membersOf(engine, "swags").map(({ id }) => endsOf(engine, id));
  order.slice(1).forEach((i, k) => {
    const both = [order[k], i].map((n) => snapFrame(standingAt(posts, n), hook).position);
    expect(ends.some((pair) => pair.every((end, n) => apart(end, both[n]) < 1e-6))).toBe(true);
  });
});

test("as a net it joins the neighbours of a grid and nothing across it; all in reach, its nearest", () => {
  const field = { id: "field", name: "field", made: { kind: "bumps", width: 8, depth: 8, height: 0 } };
  const over = {
    where: { kind: "over", surfaces: ["field"] },
    spacing: { pattern: "square", distance: 2 },
  };
  const lengths = (rule: object): number[] => {
    const engine = new Engine();
    engine.take(
      harbour([{ ...swags, ...rule }], [row("posts", harbourScene().props[0].id, over)], { surfaces: [field] }),
    );
    return membersOf(engine, "swags").map(({ id }) => apart(...endsOf(engine, id)));
  };
  const net = lengths({ partner: "net", within: 5, form: "straight" });
  // Five by five stand on eight metres two apart.
  const side = 5;
  expect(net).toHaveLength(2 * side * (side - 1));
  net.forEach((far) => expect(far).toBeCloseTo(2, 5));
  const reach = lengths({ partner: "within", within: 2.9 });
  expect(reach).toHaveLength(2 * side * (side - 1) + 2 * (side - 1) ** 2);
});

describe("a knot that is tied", () => {
  const tied = (tie: Tie, more: object[], dressings: object[], at: Vec3) => {
    const rope = { id: "rope", kind: "polyline", knots: [[0, 5, 0], at] }; // prettier-ignore
    const scene = harbour([straight, rope, ...more], dressings);
    scene.lines.find(({ id }) => id === "rope")!.knots[1].held = tie as never;
    return scene;
  };

  test("to a snap point stays there when the prop is moved, dealt anew, set up otherwise, or travels; and tells where that is gone", () => {
    const bare = harbour([straight], [row("posts", harbourScene().props[0].id)]);
    const engine = new Engine();
    engine.take(bare);
    const hookOf = (scene: Scene) =>
      snapFrame(standingAt(engine.placements("posts")!, 3), snapPointsOf(scene.props[0])[0]);
    const stood = hookOf(bare);
    const key = hexOf(engine.placements("posts")!.key[3]);
    const tie: Tie = { kind: "placement", dressing: "posts", key, snap: "hook", stood };
    for (const more of [
      { fit: { up: 1.5, across: -0.4 } },
      { variation: { positionOn: true, turnOn: true, sizeOn: true, seed: 7 } },
      { spacing: { distance: 1.5, travelling: true, speed: 0.3 } },
    ]) {
      const scene = tied(tie, [], [row("posts", bare.props[0].id, more)], stood.position);
      for (const t of [0, 0.7]) {
        engine.take(sceneAt(scene, t));
        expect(apart(endsOf(engine, "rope")[1], hookOf(scene).position)).toBeLessThan(1e-6);
      }
    }
    const gone = tied({ ...tie, snap: "eye" }, [], [row("posts", bare.props[0].id), row("pegs", bare.props[0].id, { where: { lines: ["rope"] } })], stood.position); // prettier-ignore
    engine.take(gone);
    expect(engine.result("pegs")!.findings.map(({ check }) => check)).toContain("lost-tie");
    expect(apart(endsOf(engine, "rope")[1], stood.position)).toBeLessThan(1e-9);
  });

  test("to a mark, an end or a knot of another line goes along with it; never with its own", () => {
    const stood = { position: [6, 0, 1.5] as Vec3, rotation: [0, 0, 0, 1] as const };
    for (const [at, there] of [
      [{ by: "mark", number: 2 }, 0.5],
      [{ by: "end", number: 1 }, 1],
      [{ by: "knot", number: 0 }, 0],
    ] as const) {
      const place: Vec3 = [12 * there, 0, 3 * there];
      const tie: Tie = { kind: "line", line: "row", at, stood: { ...stood, position: place } };
      const scene = tied(tie, [], [], place);
      const engine = new Engine();
      const base = scene.lines.find(({ id }) => id === "row")!;
      const by = fromAxisAngle([0, 1, 0], 0.8);
      const knots = base.knots.map((knot) => ({ ...knot, position: rotate(by, knot.position) }));
      const lines = scene.lines.map((one) => (one === base ? { ...one, marks: 4, knots } : one));
      engine.take({ ...scene, lines: lines as Scene["lines"] });
      expect(apart(endsOf(engine, "rope")[1], rotate(by, place))).toBeLessThan(1e-6);
    }
    // Of a family it is one of its members.
    const across = { id: "across", pairs: "across", lines: ["row", "far"], parts: 2 };
    const far = { id: "far", kind: "polyline", knots: [[0, 4, 0], [12, 4, 3]] }; // prettier-ignore
    const beside = new Engine();
    beside.take(harbour([straight, far, across]));
    const member = membersOf(beside, "across")[1].id.slice("across/".length);
    const held: Tie = {
      kind: "line",
      line: "across",
      member,
      at: { by: "end", number: 1 },
      stood: { ...stood, position: [6, 4, 1.5] },
    };
    const lifted = { ...far, knots: [[0, 6, 0], [12, 6, 3]] }; // prettier-ignore
    beside.take(tied(held, [lifted, across], [], [6, 4, 1.5]));
    expect(apart(endsOf(beside, "rope")[1], [6, 6, 1.5])).toBeLessThan(1e-6);
    const engine = new Engine();
    const scene = tied({ kind: "line", line: "rope", at: { by: "end", number: 0 }, stood }, [], [], [1, 1, 1]);
    engine.take(scene);
    expect(endsOf(engine, "rope")[1]).toEqual([1, 1, 1]);
  });
});

test("a loose prop hangs by its own snap point on another's: both ends meet, directions opposed, however either is moved or dealt", () => {
  const [buoy, oar] = harbourScene().props;
  const eye = { name: "eye", position: [0.05, 1.2, 0], direction: [0, 1, 0.2] };
  const bare = harbour([straight], [row("posts", buoy.id)]);
  bare.props[1] = {
    ...bare.props[1],
    prepared: { ...bare.props[1].prepared, snaps: [{ id: 0, free: true, ...eye } as never] },
  };
  const engine = new Engine();
  engine.take(bare);
  const [hook, own] = [snapPointsOf(bare.props[0])[0], snapPointsOf(bare.props[1])[0]];
  const at = (dressing: string, i: number, of: typeof hook) =>
    snapFrame(standingAt(engine.placements(dressing)!, i), of);
  const stood = at("posts", 2, hook);
  const held: Tie = {
    kind: "placement",
    dressing: "posts",
    key: hexOf(engine.placements("posts")!.key[2]),
    snap: "hook",
    stood,
  };
  for (const [fit, variation, turn] of [
    [{}, {}, 0],
    [{ up: 2, along: 0.3 }, { turnOn: true, turnUp: [-1, 1], seed: 3 }, 1],
    [{ across: -1 }, { sizeOn: true, size: [0.5, 2], mirror: 0.5 }, -2],
  ] as const) {
    const hangs = { by: "eye", at: stood.position, turned: stood.rotation, turn, free: turn !== 1 };
    const peg = { on: "loose", point: stood.position, prop: oar.id, added: true, held, hangs };
    const loose = row("loose", oar.id, { where: { kind: "loose" }, variation, pegs: { [hexOf(addedKey(1))]: peg } });
    engine.take(sceneSchema.parse({ ...bare, dressings: [row("posts", buoy.id, { fit, variation }), loose] }));
    const [there, here] = [at("posts", 2, hook), at("loose", 0, own)];
    expect(apart(here.position, there.position)).toBeLessThan(1e-6);
    const up = (q: typeof here.rotation) => rotate(q, [0, 1, 0]);
    expect(
      apart(
        up(here.rotation),
        up(there.rotation).map((x) => -x),
      ),
    ).toBeLessThan(2e-6);
  }
});

test("becomes tubes as its members are; what is made of single lines takes no part of it", () => {
  const rib = (id: string, x: number) => ({ id, kind: "polyline", knots: [[x, 0, 0], [x, 4, 0]] }); // prettier-ignore
  const beams = { id: "beams", pairs: "across", lines: ["a", "b"], parts: 4 };
  const made = (kind: string) => ({ id: kind, name: kind, made: { kind, lines: ["beams"], radius: 0.05 } });
  const engine = new Engine();
  engine.take(harbour([rib("a", 0), rib("b", 3), beams], [], { surfaces: [made("tube"), made("loft")] }));
  const job = engine.solidJob("tube")!;
  expect(job.steps.reduce((sum, { bodies }) => sum + bodies.length, 0)).toBe(5);
  expect(engine.madeMesh("loft")).toBeNull();
});

test("what hangs and is held stays where it is seen when what held it is gone", () => {
  const stood = { position: [0, 2, 0], rotation: [0, 0, 0, 1] } as const;
  const held: Tie = { kind: "placement", dressing: "posts", key: "0000000000000001", snap: "hook", stood };
  const hangs = { by: "top", at: stood.position, turned: stood.rotation, turn: 0, free: true };
  const peg = { on: "loose", point: stood.position, prop: "oar", added: true, held, hangs };
  const scene = harbour(
    [straight],
    [row("posts", "buoy"), row("loose", "oar", { where: { kind: "loose" }, pegs: { [hexOf(addedKey(1))]: peg } })],
  );
  const carry = { turn: fromAxisAngle([0, 0, 1], Math.PI / 2), from: stood.position, to: [5, 3, 1] as Vec3 };
  const carries = new Map([[tieOfPeg("loose", hexOf(addedKey(1))), carry]]);
  const without = { ...scene, dressings: scene.dressings.filter(({ id }) => id !== "posts") };
  const left = uncarried(scene, scene, without, carries).dressings.at(-1)!.pegs[hexOf(addedKey(1))];
  expect(left.point).toEqual([5, 3, 1]);
  expect(apart(left.hangs!.at, [5, 3, 1])).toBeLessThan(1e-12);
  expect(apart(rotate(left.hangs!.turned, [0, 1, 0]), [-1, 0, 0])).toBeLessThan(1e-12);
});

test("pins and the handle of a patch go along with what they are tied to, as near to it as their surface is", () => {
  const surface = { id: "wall", name: "wall", made: { kind: "bumps", width: 30, depth: 30, height: 0 }, position: [4, 1, 2], rotation: [0.6, 0, 0, 0.8], scale: 1.5 }; // prettier-ignore
  const wall = (scene: Scene) => scene.surfaces[0];
  const own = (scene: Scene, at: Vec3) => [...intoOwn(wall(scene), at)];
  const pin = hexOf(addedKey(1));
  const made = (more: object, tie: Tie | null, at: Vec3, position: readonly number[] = surface.position): Scene => {
    const scene = harbour([straight], [row("posts", "buoy", more)], { surfaces: [{ ...surface, position }] });
    const point = own(harbour([], [], { surfaces: [surface] }), at);
    const patch = { layout: { columns: 1, rows: 1 }, handle: point, tied: tie };
    const peg = { on: "wall", point, uv: [0.5, 0.5], prop: "oar", added: true, ...(tie && { held: tie }) };
    const bare = { name: "x", what: { entries: [{ prop: "oar" }] }, stance: { meetsUp: "pivot" } };
    const dressings = [
      { ...bare, id: "pins", where: { kind: "pinned", surfaces: ["wall"] }, pegs: { [pin]: peg } },
      { ...bare, id: "patch", where: { kind: "patch", surfaces: ["wall"], patch } },
    ];
    return sceneSchema.parse({ ...scene, dressings: [...scene.dressings, ...dressings] });
  };
  /** The place of the wall, which is flat, that is nearest to a point. */
  const onWall = (scene: Scene, at: Vec3): Vec3 => {
    const [x, , z] = own(scene, at);
    return fromStand(wall(scene), [x, 0, z]);
  };
  const standing = (engine: Engine, id: string, i = 0) => standingAt(engine.placements(id)!, i).position;
  const engine = new Engine();
  engine.take(made({}, null, [0, 0, 0]));
  const hookOf = (scene: Scene) =>
    snapFrame(standingAt(engine.placements("posts")!, 3), snapPointsOf(scene.props[0])[0]);
  const bare = made({}, null, [0, 0, 0]);
  const stood = hookOf(bare);
  const tie: Tie = { kind: "placement", dressing: "posts", key: hexOf(engine.placements("posts")!.key[3]), snap: "hook", stood }; // prettier-ignore
  const start = onWall(bare, stood.position);
  for (const more of [{}, { fit: { up: 1.5, across: -0.4 } }, { variation: { positionOn: true, positionStep: 0 } }]) {
    const scene = made(more, tie, start);
    engine.take(scene);
    const { position, rotation } = hookOf(scene);
    const carry = carryBetween(stood, { position, rotation });
    const there = onWall(scene, carry ? carriedPoint(carry, start) : start);
    expect(apart(standing(engine, "pins"), there)).toBeLessThan(1e-4);
    expect(apart(standing(engine, "patch"), there)).toBeLessThan(1e-4);
  }
  // When it is gone they stay where they are seen.
  const lifted = made({ fit: { up: 1.5, across: -0.4 } }, tie, start);
  engine.take(lifted);
  const seen = standing(engine, "pins");
  const carry = carryBetween(stood, hookOf(lifted))!;
  const carries = new Map([tieOfPeg("pins", pin), tieOfPeg("patch", HANDLE)].map((name) => [name, carry]));
  const without = { ...lifted, dressings: lifted.dressings.filter(({ id }) => id !== "posts") };
  engine.take(uncarried(lifted, lifted, without, carries));
  for (const id of ["pins", "patch"]) expect(apart(standing(engine, id), seen)).toBeLessThan(1e-4);
  expect(engine.result("pins")!.findings.map(({ check }) => check)).toContain("lost-tie");
  // Moved by itself, the surface takes both along while what they are tied to stays.
  engine.take(made({}, tie, start, [5, 1, 2]));
  for (const id of ["pins", "patch"]) expect(apart(standing(engine, id), [start[0] + 1, start[1], start[2]])).toBeLessThan(1e-4); // prettier-ignore
});
