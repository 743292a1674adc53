/** Places of wrapped layouts as the interface finds and moves them. */
import { AS_IT_COMES, RestMesh } from "@/core/mesh";
import { fromAxisAngle } from "@/core/math";
import { sceneSchema, SCENE_VERSION, surfaceSchema } from "@/core/scene";
import { useSceneStore } from "@/store";
import { forgetCharts, putCharts } from "./charted";
import { flipped, quarterOn, swapped } from "./edits";
import { chartUnder, flatPlaceAt, movedOnSheet } from "./layouts";

/** A plane of 4 by 2 m in its file, twice as large in the scene, turned and moved. */
const PLANE = new RestMesh({
  position: Float32Array.of(0, 0, 0, 4, 0, 0, 0, 0, 2, 4, 0, 2),
  index: Uint32Array.of(0, 2, 3, 0, 3, 1),
  attributes: [],
});

function begin(laying: object = {}, wrap: object = {}, patch: object = {}) {
  const made = { kind: "bumps" };
  const stand = { position: [5, 1, -3], rotation: fromAxisAngle([0, 1, 0], 0.7), scale: 2 };
  const surface = surfaceSchema.parse({
    id: "deck",
    name: "Deck",
    made,
    ...stand,
    laying: { ...AS_IT_COMES, ...laying },
  });
  const where = { kind: "wrapped", surfaces: ["deck"], wrap, patch };
  const scene = sceneSchema.parse({ version: SCENE_VERSION, name: "S", surfaces: [surface], dressings: [{ id: "d", name: "D", where }] }); // prettier-ignore
  useSceneStore.setState({ shown: scene });
  forgetCharts();
  putCharts([["deck", { mesh: PLANE.mesh, table: PLANE.chart(surface.laying.by)! }]]);
  return scene.dressings[0];
}

test("a point of the surface is a place of the layout, in metres of the scene, about the middle", () => {
  const dressing = begin();
  // The point is told in the surface's own coordinates: east is to the right and north ahead, as on a map.
  expect(flatPlaceAt(dressing, [2, 0, 1])).toEqual([0, 0]);
  expect(flatPlaceAt(dressing, [3.5, 0, 0.25])).toEqual([3, 1.5]);
  expect(flatPlaceAt(begin({}, { right: 0.5, up: -0.25 }), [2, 0, 1])).toEqual([-0.5, 0.25]);
  expect(flatPlaceAt(begin({ corner: "top-right" }), [3.5, 0, 0.25])).toEqual([-3, -1.5]);
  forgetCharts();
  expect([chartUnder(dressing), flatPlaceAt(dressing, [2, 0, 1])]).toEqual([null, null]);
});

test("moved on the sheet a place goes as far in its layout, however that is turned", () => {
  expect(movedOnSheet(begin(), [1, 1], [0.3, 0.2])).toEqual([1.3, 0.8]);
  expect(movedOnSheet(begin({}, {}, { turn: Math.PI / 2 }), [1, 0.5], [0.3, 0.2])).toEqual([0.8, 0.2]);
});

test("four quarters are none, flipping and swapping twice too; what went right goes up once swapped", () => {
  const start = { quarters: 1, flip: true };
  expect([1, 2, 3, 4].reduce((now) => quarterOn(now), start)).toEqual(start);
  expect(flipped(flipped(start))).toEqual(start);
  expect(swapped(swapped(start))).toEqual(start);
  const plain = { quarters: 0, flip: false };
  const [east, north] = [[3, 0, 1], [2, 0, 0.5]] as const; // prettier-ignore
  expect([flatPlaceAt(begin(plain), east), flatPlaceAt(begin(plain), north)]).toEqual([[2, 0], [0, 1]]); // prettier-ignore
  expect([flatPlaceAt(begin(swapped(plain)), east), flatPlaceAt(begin(swapped(plain)), north)]).toEqual([[0, 2], [1, 0]]); // prettier-ignore
  expect(flatPlaceAt(begin(flipped(plain)), east)).toEqual([-2, 0]);
  expect(flatPlaceAt(begin(quarterOn(plain)), east)).toEqual([0, 2]);
});
