/** One engine asked for many moments. */
import { sceneAt } from "@/core/scene";
import { makeLine } from "@/core/line/testing";
import { surfaceSchema } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";

test("any moments one after another come to the bytes that each comes to alone", () => {
  const scene = harbourScene();
  const [buoys, oars] = scene.dressings;
  buoys.courses = {
    "spacing/distance": {
      keyframes: [1, 0.4].map((value, at) => ({ at: 3 * at, value, go: "smooth" as const })),
      before: "hold",
      after: "toAndFro",
    },
  };
  oars.spacing = { ...oars.spacing, speed: 0.3, onceIn: 7 };
  scene.lines[0].courses = {
    "knots/1/position": {
      keyframes: [0, 2].map((at) => ({ at, value: [10, at, -at], go: "straight" as const })),
      before: "hold",
      after: "repeat",
    },
  };
  const water = surfaceSchema.parse({
    id: "water",
    name: "Water",
    made: { kind: "bumps", width: 8, depth: 6, height: 0.5 },
    movers: [
      { kind: "waves", length: 2, held: ["left", "rim"] },
      { kind: "billow", depth: 0.3, held: ["left"] },
      { kind: "twist", angle: 0.4 },
    ],
  });
  scene.surfaces = [
    {
      ...water,
      courses: {
        position: {
          keyframes: [0, 3].map((at) => ({ at, value: [at, 0, 1], go: "smooth" as const })),
          before: "hold",
          after: "toAndFro",
        },
      },
    },
  ];
  scene.lines.push({
    ...makeLine({ kind: "polyline", knots: [[-3, 2, 0], [3, 2, 1]] }), // prettier-ignore
    id: "lane",
    number: 7,
    laid: { kind: "surface", on: ["water"], way: "down", axis: [0, -1, 0], how: "densely" },
  });
  const [lamps, nets] = [oars, oars].map((one, i) => ({ ...one, id: `on water ${i}`, pegs: {}, courses: {} }));
  lamps.where = { ...lamps.where, lines: ["lane"] };
  nets.where = { ...nets.where, kind: "over", surfaces: ["water"], lines: [] };
  nets.stance = { ...nets.stance, up: "normal" };
  scene.dressings.push(lamps, nets);
  const bytes = (engine: Engine, t: number) => {
    engine.take(sceneAt(scene, t));
    return scene.dressings.map(({ id }) => {
      const { position, rotation, scale, key, flags } = engine.placements(id)!;
      return [position, rotation, scale, key, flags].map((array) => Buffer.from(array.buffer, array.byteOffset, array.byteLength).toString("base64")); // prettier-ignore
    });
  };
  const playing = new Engine();
  const seen = new Set<string>();
  for (let i = 0; i < 40; i++) {
    const t = ((i * 37) % 41) / 6;
    const now = bytes(playing, t);
    expect(now).toEqual(bytes(new Engine(), t));
    seen.add(JSON.stringify(now));
  }
  expect(seen.size).toBeGreaterThan(35);
});
