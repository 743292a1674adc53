/** Seams picked by hand are lines along the surface's edges: it lies otherwise as long as they are there, and they go with it. */
import { dressingSchema } from "@/core/place";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import { addSeam, deleteLine, editLine, layAs, makeSurface } from ".";
import { scene, startInHarbour } from "./testing";

beforeEach(startInHarbour);

const undo = () => useSceneStore.getState().undo();

test("a surface is cut open along a line that was picked, as long as that goes along its edges; others take no seams over", () => {
  for (const at of [0, 10]) makeSurface("box", [at, 0, 0]);
  const [box, other] = scene()
    .surfaces.slice(-2)
    .map(({ id }) => id);
  useSceneStore.getState().change("Dress", (draft) => {
    for (const surface of draft.surfaces) surface.laying.by = "unrolled";
    const layout = { by: "number", columns: 7, rows: 5 };
    const where = { kind: "wrapped", surfaces: [box], patch: { layout } };
    draft.dressings = [dressingSchema.parse({ id: "studs", name: "Studs", where, what: { entries: [{ prop: "buoy" }] } }) as never]; // prettier-ignore
  });
  const laid = () => {
    const [{ placements: p }] = new Engine().evaluate(scene());
    return JSON.stringify([p.count, [...p.position].map((x) => x.toFixed(4))]);
  };
  const before = laid();
  addSeam("sharp", { on: box, at: [0, 3, 2], value: 0 });
  const line = scene().lines.at(-1)!;
  expect([line.name, line.laid]).toEqual([
    "Seam of Box",
    expect.objectContaining({ kind: "edges", on: box, follow: "sharp" }),
  ]);
  expect(scene().surfaces.map(({ laying }) => laying.seams)).toEqual([[line.id], []]);
  const cut = laid();
  expect(cut).not.toBe(before);
  layAs(other, box);
  expect(scene().surfaces.map(({ laying }) => laying.seams)).toEqual([[line.id], []]);
  // Along another surface's edges, or across faces, it cuts nothing here.
  const edges = (says: object) => editLine(line.id, "Edges", ({ laid: own }) => void Object.assign(own!, says));
  edges({ on: other });
  expect(laid()).toBe(before);
  undo();
  expect(laid()).toBe(cut);
  edges({ follow: "ring" });
  expect(laid()).toBe(before);
  undo();
  deleteLine(line.id);
  expect([laid(), scene().surfaces[0].laying.seams]).toEqual([before, []]);
  undo();
  expect(laid()).toBe(cut);
});
