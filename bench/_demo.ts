import { readFileSync, readdirSync } from "node:fs";
import { Engine } from "../src/engine/engine";
import { meshesWanted } from "../src/engine/wanted";
import { sceneAt } from "../src/core/scene";
const dir = "/tmp/demo";
const raw = JSON.parse(readFileSync(`${dir}/scene.json`, "utf8"));
const { parseScene } = await import("../src/core/scene") as any;
const scene = sceneAt((parseScene ? parseScene(raw) : raw), 0);
for (let round = 0; round < 2; round++) {
  const engine = new Engine();
  let t = performance.now();
  for (const hash of meshesWanted(scene)) await engine.learnFile(hash, new Uint8Array(readFileSync(`${dir}/assets/${readdirSync(dir + "/assets").find((f) => f.startsWith(hash))}`)));
  console.log("teach", (performance.now() - t).toFixed(0));
  t = performance.now();
  engine.take(scene);
  console.log("take", (performance.now() - t).toFixed(0));
  t = performance.now();
  const rows: [number, string, number][] = [];
  for (const d of scene.dressings) {
    const s = performance.now();
    const r = engine.result(d.id)!;
    rows.push([performance.now() - s, d.name, r.placements.prop.length]);
  }
  console.log("results", (performance.now() - t).toFixed(0));
  t = performance.now();
  void engine.innerFindings(); void engine.insides; void engine.tracks; void engine.made;
  console.log("inner", (performance.now() - t).toFixed(0));
  rows.sort((a, b) => b[0] - a[0]);
  for (const [ms, name, n] of rows.slice(0, 14)) console.log(ms.toFixed(0).padStart(6), name, n);
}
