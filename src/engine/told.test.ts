import fc from "fast-check";
import { emptyScene, sceneSchema } from "@/core/scene";
import { Engine } from "./engine";
import { isNews, knowing, toldSince } from "./told";

test("who knows what was and is told what differs knows what is; without a difference nothing is told", () => {
  const things = fc.dictionary(fc.constantFrom("a", "b", "c", "d"), fc.nat(2));
  fc.assert(
    fc.property(things, things, (before, after) => {
      const [was, is] = [before, after].map((all) => new Map(Object.entries(all)));
      const told = toldSince(was, is);
      expect(new Map([...knowing(was, told)].sort())).toEqual(new Map([...is].sort()));
      expect(isNews(told)).toBe(JSON.stringify([...was].sort()) !== JSON.stringify([...is].sort()));
      expect(told.changed.every(([id, value]) => was.get(id) !== value)).toBe(true);
    }),
  );
});

test("meshes of made surfaces are told of: the same as long as nothing bears on them, others with a line that they are made of", () => {
  const mast = {
    kind: "polyline",
    knots: [
      [1, 0, 0],
      [1, 2, 0],
    ].map((position) => ({ position })),
  };
  const scene = sceneSchema.parse({
    ...emptyScene("Made"),
    lines: [{ ...mast, id: "mast", name: "Mast", number: 1 }],
    surfaces: [
      { id: "cap", name: "Cap", asset: null, made: { kind: "revolve", line: "mast" } },
      { id: "box", name: "Box", asset: null, made: { kind: "box" } },
      { id: "rock", name: "Rock", asset: "0".repeat(64) },
    ],
  });
  const engine = new Engine();
  engine.learn("0".repeat(64), {
    position: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 0, 1),
    index: Uint32Array.of(0, 2, 1),
    attributes: [],
  });
  engine.take(scene);
  const first = engine.made;
  expect([...first.keys()]).toEqual(["cap", "box"]);
  const [cap, box] = scene.surfaces;
  engine.take({
    ...scene,
    surfaces: [
      { ...cap, position: [5, 0, 0] },
      { ...box, name: "Crate" },
    ],
  });
  expect(isNews(toldSince(first, engine.made))).toBe(false);
  const knots = scene.lines[0].knots.map((knot, i) => (i === 1 ? { ...knot, position: [1, 3, 0] as const } : knot));
  engine.take(sceneSchema.parse({ ...scene, lines: [{ ...scene.lines[0], knots }], surfaces: [cap] }));
  const told = toldSince(first, engine.made);
  expect([told.changed.map(([id]) => id), told.gone]).toEqual([["cap"], ["box"]]);
  expect(Math.max(...Array.from(told.changed[0][1].position).filter((_, i) => i % 3 === 1))).toBeCloseTo(3);
});
