/** One engine asked for many moments. */
import { sceneAt } from "@/core/scene";
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
