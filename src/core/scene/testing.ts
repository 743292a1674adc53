/** A small scene for tests: two props, two lines, one dressing of each sort. */
import { dressingSchema } from "../place";
import { BOUNDS, straight } from "../place/testing";
import { emptyScene } from "./make";
import { sceneSchema, type Scene } from "./schema";

/** Hashes of no real files. */
export const HASHES = { buoy: "a".repeat(64), oar: "b".repeat(64) };

export function harbourScene(): Scene {
  return sceneSchema.parse({
    ...emptyScene("Harbour"),
    props: (["buoy", "oar"] as const).map((id) => ({
      id,
      name: id === "buoy" ? "Buoy" : "Oar",
      asset: HASHES[id],
      bounds: BOUNDS.get(id)!,
      triangles: 12,
    })),
    lines: [straight(10, { id: "quay", name: "Quay" }), straight(4, { id: "jetty", name: "Jetty", number: 2 })],
    dressings: [
      dressingSchema.parse({
        id: "buoys",
        name: "Buoys",
        where: { lines: ["quay"] },
        what: { entries: [{ prop: "buoy" }] },
      }),
      dressingSchema.parse({
        id: "oars",
        name: "Oars",
        where: { lines: ["jetty", "quay"] },
        what: { entries: [{ prop: "oar", count: 2 }, { prop: "buoy" }], order: "mixed" },
        spacing: { distance: 1.3 },
        stance: { meetsUp: "top" },
        variation: { turnOn: true },
        gaps: { chance: 0.2 },
        pegs: { "0000000200000001": { on: "jetty", at: 1.4 } },
      }),
    ],
  });
}
