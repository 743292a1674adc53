/** Assemblies: what stands in them stands under each use, the same or varied; an edit inside shows in all of them. */
import { Matrix4, Quaternion, Vector3 } from "three";
import fc from "fast-check";
import { dressingSchema, drawnOf, FLAG, hexOf, writeMatrix, type Placements } from "@/core/place";
import {
  inside,
  isMoving,
  nestingTrouble,
  outside,
  preparationMatrix,
  sceneAt,
  sceneSchema,
  type Scene,
} from "@/core/scene";
import { Engine } from "./engine";
import { evaluateScene } from "./jobs";
import { shelves, type Asked } from "./testing-assemblies";
import { meshesWanted } from "./wanted";

const standing = (p: Placements, i: number) => !(p.flags[i] & FLAG.blank) && p.prop[i] < p.props.length;

/** The matrix of a placement in the coordinates that its dressing is in. */
function matrixOf(p: Placements, i: number): Matrix4 {
  const numbers = new Float32Array(16);
  writeMatrix(p, i, numbers, 0);
  const mirror = p.flags[i] & FLAG.mirrored ? -1 : 1;
  return new Matrix4()
    .makeTranslation(...p.origin)
    .multiply(new Matrix4().fromArray(numbers))
    .multiply(new Matrix4().makeScale(mirror, 1, 1));
}

/** All that stands in a dressing, worked out one in another: each with its prop. */
function byHand(engine: Engine, scene: Scene, dressing: string): { prop: string; matrix: Matrix4 }[] {
  const p = engine.placements(dressing)!;
  return Array.from({ length: p.count }, (_, i) => i).filter((i) => standing(p, i)).flatMap((i) => {
    const prop = scene.props.find(({ id }) => id === p.props[p.prop[i]])!;
    const own = matrixOf(p, i);
    if (!prop.assembly) return [{ prop: prop.id, matrix: own }];
    const box = engine.boxOf(prop.id)!;
    const prepared = new Matrix4().fromArray([...preparationMatrix({ ...prop, bounds: box }), 0, 0, 0, 1]).transpose();
    return prop.assembly.dressings.flatMap(({ id }) =>
      byHand(engine, scene, id).map((one) => ({ ...one, matrix: own.clone().multiply(prepared).multiply(one.matrix) })),
    );
  }); // prettier-ignore
}

const CORNERS = [0, 1, 2, 3].map((k) => new Vector3(k === 1 ? 1 : 0, k === 2 ? 1 : 0, k === 3 ? 1 : 0));

test("everything in an assembly stands under each use of it: moved, turned, sized and mirrored, however deep", () => {
  const odd = { turnOn: true, turnUp: [-3, 3], turnAlong: [-1, 1], sizeOn: true, size: [0.5, 2], mirrorOn: true, mirror: 0.5, tintOn: true }; // prettier-ignore
  const scene = shelves({ variation: odd, size: 1.5 });
  const engine = new Engine();
  const [result] = engine.evaluate(scene);
  const { placements, of } = result.apart!;
  const wanted = byHand(engine, scene, "shops");
  expect(placements.count).toBe(wanted.length);
  expect(engine.standing("shops")).toBe(5 + 5 * (3 * 4 + 2));
  wanted.forEach(({ prop, matrix }, k) => {
    expect(placements.props[placements.prop[k]]).toBe(prop);
    const own = matrixOf(placements, k);
    for (const corner of CORNERS)
      expect(corner.clone().applyMatrix4(own).distanceTo(corner.clone().applyMatrix4(matrix))).toBeLessThan(2e-4);
  });
  expect(new Set([...placements.key].map(hexOf)).size).toBe(placements.count);
  expect([...of].every((i, k) => k === 0 || i >= of[k - 1])).toBe(true);
  const shown = engine.drawn(result);
  expect(shown.drawn.order).toHaveLength(placements.count);
  expect(drawnOf(placements, () => undefined).order).toHaveLength(placements.count);
});

test("its box is that of all it holds, as large as that is now, and it is placed by it", () => {
  const engine = new Engine();
  const scene = shelves();
  engine.evaluate(scene);
  const box = engine.boxOf("shelf")!;
  const all = scene.props.find(({ id }) => id === "shelf")!.assembly!.dressings.flatMap(({ id }) => byHand(engine, scene, id)); // prettier-ignore
  const points = all.flatMap(({ prop, matrix }) => {
    const { min, max } = scene.props.find(({ id }) => id === prop)!.bounds;
    return Array.from({ length: 8 }, (_, c) =>
      new Vector3(...min.map((low, k) => (c & (1 << k) ? max[k] : low))).applyMatrix4(matrix).toArray(),
    );
  });
  for (const k of [0, 1, 2]) {
    expect(box.min[k]).toBeCloseTo(Math.min(...points.map((point) => point[k])), 4);
    expect(box.max[k]).toBeCloseTo(Math.max(...points.map((point) => point[k])), 4);
  }
  // End to end, a larger prop in it moves the next one on.
  const endToEnd = (one: Scene): Scene => ({
    ...one,
    dressings: one.dressings.map((d) => ({ ...d, spacing: { ...d.spacing, by: "end" as const } })),
  });
  const count = (one: Scene) => new Engine().evaluate(endToEnd(one))[0].placements.count;
  expect(count(shelves({ size: 3 }))).toBeLessThan(count(shelves({ size: 0.5 })));
});

/** What stands in each use, from the use: so that two that are the same come to the same text. */
function usesOf(engine: Engine): Map<string, string> {
  const { placements, of } = engine.result("shops")!.apart!;
  const outer = engine.placements("shops")!;
  const out = new Map<string, string[]>();
  of.forEach((i, k) => {
    if (outer.props[outer.prop[i]] !== "shelf") return;
    const back = matrixOf(outer, i).invert().multiply(matrixOf(placements, k));
    const [at, turn] = [new Vector3(), new Quaternion()];
    back.decompose(at, turn, new Vector3());
    const said = [...at.toArray(), ...turn.toArray().map(Math.abs)].map((x) => x.toFixed(2)).join(" ");
    const key = hexOf(outer.key[i]);
    (out.get(key) ?? out.set(key, []).get(key)!).push(`${placements.props[placements.prop[k]]} ${said}`);
  });
  return new Map([...out].map(([key, all]) => [key, all.join("\n")]));
}

test("varied ones differ, each the same again whatever comes beside it; shared ones are as few as are asked for", () => {
  const used = (asked: Asked, change = (scene: Scene) => scene) => {
    const engine = new Engine();
    engine.evaluate(change(shelves(asked)));
    return usesOf(engine);
  };
  const kinds = (uses: ReadonlyMap<string, string>) => new Set(uses.values()).size;
  expect(kinds(used({ uses: 30 }))).toBe(1);
  const varied = used({ each: "varied", uses: 30 });
  expect(kinds(varied)).toBe(30);
  const few = kinds(used({ each: "varied", most: 4, uses: 60 }));
  expect([few > 2, few <= 4]).toEqual([true, true]);
  // More of them, and other names: those that were there stay as they are.
  const renamed = (scene: Scene): Scene => ({
    ...scene,
    props: scene.props.map((prop) => ({ ...prop, name: `${prop.name} of old` })),
    dressings: scene.dressings.map((one) => ({ ...one, name: "Row" })),
  });
  const more = used({ each: "varied", uses: 33 }, renamed);
  const kept = [...varied].filter(([key, said]) => more.get(key) === said);
  expect(kept.length).toBe(30);
  // Opening one changes nothing of what comes out.
  expect(used({ each: "varied", uses: 30 }, (scene) => outside(scene, inside(scene, "tray")))).toEqual(varied);
});

test("an edit inside shows in all uses at once and runs only what hangs on it; seen from inside it is a scene of its own", () => {
  const engine = new Engine();
  const scene = shelves({ each: "same", uses: 20 });
  engine.evaluate(scene);
  const edit = (count: number) => {
    const opened = inside(scene, "tray");
    const dressings = opened.dressings.map((one) => ({ ...one, spacing: { ...one.spacing, count } }));
    return outside(scene, { ...opened, dressings });
  };
  const [after] = engine.evaluate(edit(7));
  expect(after.apart!.placements.count).toBe(20 + 20 * (3 * 7 + 2));
  // The jars; and the trays and the shops, since a tray is of another size now.
  expect(engine.ran.filter((name) => name === "placements")).toHaveLength(3);
  expect(new Engine().evaluate(edit(7))[0].apart!.placements.position).toEqual(after.apart!.placements.position);
  // From inside there are its own dressings; back out only what differs is told, all of it.
  const opened = inside(edit(7), "shelf");
  expect(engine.evaluate(opened).map(({ id }) => id)).toEqual(["trays", "loose"]);
  expect(engine.ran.filter((name) => name === "placements")).toEqual([]);
  expect(engine.evaluate(edit(7)).map(({ id }) => id)).toEqual(["shops"]);
});

test("things in an assembly see only each other: ground, dressings to keep off, lines; in each variant their own", () => {
  const scene = shelves({ each: "varied", uses: 12, inner: { gaps: { chance: 0.5, chanceOn: true } } });
  const tray = scene.props.find(({ id }) => id === "tray")!;
  const other = { ...tray.assembly!.dressings[0], id: "lids", name: "lids" };
  const avoiding = { ...other, fit: { ...other.fit, clear: "box" as const, clearOf: ["jars"] } };
  const props = scene.props.map((prop) =>
    prop.id === "tray" ? { ...prop, assembly: { ...tray.assembly!, dressings: [tray.assembly!.dressings[0], avoiding] } } : prop,
  ); // prettier-ignore
  const engine = new Engine();
  engine.evaluate({ ...scene, props });
  // Where all are mixed and the lids give way to the jars, no two of one tray stand at one place.
  const { placements, of } = engine.result("shops")!.apart!;
  const places = Array.from({ length: placements.count }, (_, k) =>
    [of[k], ...placements.position.subarray(3 * k, 3 * k + 3)].map((x) => x.toFixed(3)).join(" "),
  );
  expect(new Set(places).size).toBe(places.length);
});

test("assemblies that would be in themselves or too deep are refused with a sentence, any other nesting is not", () => {
  const nested = (holds: readonly (readonly number[])[]) =>
    ({
      mixes: [],
      props: holds.map((inner, i) => ({
        id: `p${i}`,
        name: `P${i}`,
        assembly: {
          dressings: [
            dressingSchema.parse({ id: "d", name: "d", what: { entries: inner.map((k) => ({ prop: `p${k}` })) } }),
          ],
        },
      })),
    }) as unknown as Scene;
  const depthOf = (holds: readonly (readonly number[])[], i: number, path: readonly number[] = []): number =>
    path.includes(i) || path.length > 20
      ? Infinity
      : 1 + Math.max(0, ...holds[i].map((k) => depthOf(holds, k, [...path, i])));
  const any = fc.array(fc.array(fc.nat(9), { maxLength: 2 }), { minLength: 10, maxLength: 10 });
  fc.assert(
    fc.property(any, (holds) => {
      const deepest = Math.max(...holds.map((_, i) => depthOf(holds, i)));
      expect(nestingTrouble(nested(holds)) === null).toBe(deepest <= 8);
    }),
    { numRuns: 300 },
  ); // prettier-ignore
  expect(nestingTrouble(nested([[1], [2], [0]]))).toBe("“P0” would be in itself, through “P1” and “P2”");
  const chain = (n: number) => Array.from({ length: n }, (_, i) => (i + 1 < n ? [i + 1] : []));
  expect([nestingTrouble(nested(chain(8))), nestingTrouble(nested(chain(9)))]).toEqual([
    null,
    "“P0” would be more than 8 assemblies deep",
  ]);
  // A file of a stranger, in which each holds all that come after it.
  const wide = Array.from({ length: 150 }, (_, i) => Array.from({ length: 149 - i }, (_, k) => i + 1 + k));
  expect(nestingTrouble(nested(wide))).not.toBeNull();
});

test("set down each by itself, things are as far above sloping ground as they are in the assembly, upright or square to it", () => {
  const slope = Math.tan(0.35);
  const tilted = {
    id: "slope",
    name: "Slope",
    made: { kind: "bumps", width: 300, depth: 300, height: 0 },
    rotation: [0, 0, Math.sin(0.175), Math.cos(0.175)],
  };
  // Nothing falls past the first ground onto another below.
  const deep = { id: "deep", name: "Deep", made: tilted.made, position: [0, -60, 0] };
  const heights = (apart: "whole" | "each", over: boolean, height = 0) => {
    const base = shelves({ uses: 4 });
    const [row] = base.dressings;
    const where = over ? { kind: "over", surfaces: ["slope"] } : row.where;
    const spacing = over ? { pattern: "square", distance: 60 } : row.spacing;
    const stance = over ? { up: "normal" } : {};
    const fit = { drop: over ? "off" : "down", apart };
    const dressing = dressingSchema.parse({ ...row, where, spacing, stance, fit });
    const ground = { ...tilted, made: { ...tilted.made, height, size: 40 } };
    const scene = sceneSchema.parse({ ...base, surfaces: over ? [ground] : [ground, deep], dressings: [dressing] });
    const engine = new Engine();
    engine.evaluate(scene);
    const { placements: p, of } = engine.result("shops")!.apart!;
    const outer = engine.placements("shops")!;
    return Array.from({ length: p.count }, (_, k) => {
      const [x, y, z] = [0, 1, 2].map((c) => p.origin[c] + p.position[3 * k + c]);
      const up = new Vector3(0, 1, 0).applyQuaternion(new Quaternion(...p.rotation.subarray(4 * k, 4 * k + 4)));
      const vertical = y - slope * x;
      return { x, z, vertical, square: vertical * Math.cos(0.35), foot: outer.position[3 * of[k] + 1] + outer.origin[1], y, up, shelf: outer.props[outer.prop[of[k]]] === "shelf" }; // prettier-ignore
    });
  };
  const [whole, each] = [heights("whole", false), heights("each", false)];
  expect(whole).toHaveLength(each.length);
  each.forEach((one, k) => {
    expect([one.x, one.z]).toEqual([expect.closeTo(whole[k].x, 3), expect.closeTo(whole[k].z, 3)]);
    if (one.shelf) expect(one.vertical).toBeCloseTo(whole[k].y - whole[k].foot, 2);
  });
  expect(whole.some((one) => Math.abs(one.vertical - (one.y - one.foot)) > 0.1)).toBe(true);
  // On the surface itself they stood square to it already, and so they stay where they are.
  const [onWhole, onEach] = [heights("whole", true), heights("each", true)];
  onEach.forEach((one, k) => {
    expect(one.square).toBeCloseTo(onWhole[k].square, 2);
    expect(one.up.distanceTo(onWhole[k].up)).toBeLessThan(1e-3);
  });
  // Where it is no plane, each turns to what is under it.
  const [stiff, bent] = [heights("whole", true, 8), heights("each", true, 8)];
  expect(bent.some((one, k) => one.up.distanceTo(stiff[k].up) > 0.02)).toBe(true);
});

test("what is in an assembly lies on no ground but its own, nothing else lies on that, and it goes on in the scene's time", () => {
  const ground = (id: string, y: number) => ({
    id,
    name: id,
    position: [0, y, 0],
    made: { kind: "bumps", width: 200, depth: 200, height: 0 },
  });
  const scene = shelves({ inner: { fit: { drop: "down", without: "keep" } } });
  const lowest = (one: Scene, t = 0) => {
    const engine = new Engine();
    engine.evaluate(sceneAt(one, t));
    const { placements: p } = engine.result("shops")!.apart!;
    return { least: Math.min(...p.position.filter((_, k) => k % 3 === 1)) + p.origin[1], all: [...p.position] };
  };
  const parts = (more: object) =>
    sceneSchema.parse({
      ...scene,
      props: scene.props.map((prop) =>
        prop.id === "tray" ? { ...prop, assembly: { ...prop.assembly, ...more } } : prop,
      ),
    });
  const was = lowest(scene);
  expect(lowest(sceneSchema.parse({ ...scene, surfaces: [ground("outer", -30)] })).all).toEqual(was.all);
  expect(lowest(parts({ surfaces: [ground("inner", -30)] })).all).not.toEqual(was.all);
  const fallen = scene.dressings.map((one) => ({ ...one, fit: { ...one.fit, drop: "down" as const } }));
  expect(lowest({ ...parts({}), dressings: fallen }).least).toBeCloseTo(was.least, 4);
  const [jars] = scene.props.find(({ id }) => id === "tray")!.assembly!.dressings;
  const going = parts({ dressings: [{ ...jars, spacing: { ...jars.spacing, speed: 0.1 } }] });
  expect([isMoving(scene), isMoving(going)]).toEqual([false, true]);
  expect(lowest(going, 2).all).not.toEqual(lowest(going, 0).all);
});

test("what stands elsewhere varies as it did, without being worked out anew; variants that are there no more are forgotten", () => {
  // Over a surface each variant is worked out by itself.
  const alone = { fit: { clear: "box" } };
  for (const inner of [{}, alone]) {
    const scene = shelves({ each: "varied", uses: 8, inner });
    const changed = (more: object, seed = 1): Scene => ({
      ...scene,
      dressings: scene.dressings.map((one) => ({ ...one, ...more, variation: { ...one.variation, seed } })),
    });
    const engine = new Engine();
    const placed = () => engine.ran.filter((name) => name === "placements").length;
    engine.evaluate(scene);
    const was = usesOf(engine);
    const first = placed();
    engine.evaluate(changed({ fit: { ...scene.dressings[0].fit, across: 3 } }));
    expect([usesOf(engine), placed()]).toEqual([was, 1]);
    engine.evaluate({ ...scene, props: scene.props.map((prop) => ({ ...prop, name: `${prop.name} 2` })) });
    expect([usesOf(engine), placed()]).toEqual([was, 1]);
    engine.evaluate(changed({}, 2));
    expect(usesOf(engine)).not.toEqual(was);
    engine.evaluate(scene);
    expect(usesOf(engine)).toEqual(was);
    // All trays in all shelves once more, but not what is the same in each.
    expect(placed()).toBeGreaterThan(first / 2);
  }
});

test("a surface that is part of an assembly stands in every use, is counted in its box, and others do not", async () => {
  const holds = (board?: object, each: "same" | "varied" = "same") => {
    const engine = new Engine();
    engine.evaluate(shelves({ uses: 3, each, ...(board && { board }) }));
    const { placements: p } = engine.result("shops")!.apart!;
    const at = p.props.indexOf("boarding");
    return { engine, p, at, own: [...p.prop.keys()].filter((i) => p.prop[i] === at) };
  };
  for (const each of ["same", "varied"] as const) {
    const [without, carrier, hidden, part] = [undefined, {}, { part: true, hidden: true }, { part: true }].map((one) => holds(one, each)); // prettier-ignore
    for (const none of [carrier, hidden]) expect([...none.p.position]).toEqual([...without.p.position]);
    // Three trays in each of three shelves.
    expect(part.own).toHaveLength(9);
    expect(new Set(part.p.key).size).toBe(part.p.count);
    const box = part.engine.boxOf("tray")!;
    expect(box.max[0] - box.min[0]).toBeGreaterThan(1.25 * 3);
    expect(part.engine.made.get("boarding")!.index.length).toBe(36);
    for (const i of part.own) expect(part.p.scale[3 * i]).toBeCloseTo(1.25, 5);
    // Where it is at the moment, and not where it was at first.
    const gone = holds({ part: true, rest: { position: [9, 9, 9], rotation: [0, 0, 0, 1], scale: 3 } }, each);
    expect([...gone.p.position]).toEqual([...part.p.position]);
  }
  // Its box is known by its mesh, so that is asked for.
  const file = (more: object) => shelves({ board: { made: null, asset: "d".repeat(64), ...more } });
  const wanted = [{ part: true }, {}, { part: true, outline: true }].map((more) => meshesWanted(file(more)).has("d".repeat(64))); // prettier-ignore
  expect(wanted).toEqual([true, false, false]);
});

test("a surface that is part of an assembly is told of as it moves, and files have it as it is then", async () => {
  const board = { part: true, movers: [{ kind: "twist", angle: 1 }] };
  const whole = shelves({ uses: 2, board });
  const engine = new Engine();
  engine.evaluate(whole);
  const [[id, shape], ...others] = engine.movedSince().changed;
  expect([id, others, [...engine.movable.keys()]]).toEqual(["boarding", [], ["boarding"]]);
  const rest = engine.restMesh("boarding")!;
  expect(shape.position).toHaveLength(rest.position.length);
  expect(Math.max(...shape.position.map((x, k) => Math.abs(x - rest.position[k])))).toBeGreaterThan(0.1);
  const { made, takenOn } = await evaluateScene(whole, new Map());
  expect([made!.get("boarding"), takenOn!.get("boarding")]).toEqual([rest, [shape]]);
  engine.evaluate(shelves({ uses: 2, board: { part: true } }));
  expect(engine.movedSince()).toMatchObject({ changed: [], gone: ["boarding"] });
});
