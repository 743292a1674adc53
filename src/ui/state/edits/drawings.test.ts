import { readSvg } from "@/core/files";
import { AS_IT_COMES, RestMesh } from "@/core/mesh";
import { sceneSchema, SCENE_VERSION, surfaceSchema } from "@/core/scene";
import { forgetCharts, putCharts } from "../charted";
import { toast } from "sonner";
import { selectDressing } from "../session";
import { bringDrawing, sheetForDrawings } from "./drawings";
import { laidOut, scene } from "./testing";

const said: string[] = [];
jest.spyOn(toast, "error").mockImplementation((text) => said.push(String(text)));

/** A plane of 4 by 2 m, upright. */
const PLANE = new RestMesh({
  position: Float32Array.of(0, 0, 0, 4, 0, 0, 0, 2, 0, 4, 2, 0),
  index: Uint32Array.of(0, 1, 3, 0, 3, 2),
  attributes: [],
});
/** A circle and a way from corner to corner, a metre wide and high. */
const drawing = (r: number) => {
  const head = `<svg xmlns="http://www.w3.org/2000/svg" width="1000mm" height="1000mm" viewBox="0 0 100 100">`;
  const text = `${head}<circle id="a" cx="50" cy="50" r="${r}"/><path id="b" d="M0 0L100 100"/></svg>`;
  return readSvg(new TextEncoder().encode(text), "crest.svg");
};
const place = (scale: number) => ({ middle: [2, 0, 1] as const, right: [1, 0, 0] as const, down: [0, 0, 1] as const, scale, sheet: "wall" }); // prettier-ignore

beforeEach(() => {
  said.length = 0;
  const surface = surfaceSchema.parse({ id: "wall", name: "Wall", made: { kind: "bumps" }, laying: AS_IT_COMES });
  const dressings = [{ id: "d", name: "D", where: { kind: "wrapped", surfaces: ["wall"] } }];
  const begun = sceneSchema.parse({ version: SCENE_VERSION, name: "S", surfaces: [surface], dressings });
  laidOut(begun);
  selectDressing("d");
  forgetCharts();
  putCharts([["wall", { mesh: PLANE.mesh, table: PLANE.chart(surface.laying.by)! }]]);
});

test("a drawing goes onto the sheet that is shown, its lines laid there, and once more with the same lines", () => {
  const sheet = sheetForDrawings()!;
  expect([sheet.surface.id, ...sheet.most.map((x, k) => x - sheet.least[k])]).toEqual([
    "wall",
    expect.closeTo(4, 9),
    expect.closeTo(2, 9),
  ]);
  const middle = sheet.least.map((x, k) => (x + sheet.most[k]) / 2);
  const there = { ...place(1), middle: [middle[0], 0, middle[1]] as const };
  bringDrawing(drawing(40), "crest.svg", there);
  const { lines } = scene();
  expect(lines.map(({ laid, drawnOn }) => [laid, drawnOn])).toEqual(
    lines.map(() => [expect.objectContaining({ on: ["wall"], how: "sheet" }), ["wall"]]),
  );
  const far = (line: (typeof lines)[number]) => Math.max(...line.knots.map(({ position: [x, y] }) => Math.hypot(x - 2, y - 1))); // prettier-ignore
  expect(lines.map(far)).toEqual([expect.closeTo(0.4, 6), expect.closeTo(Math.SQRT1_2, 6)]);
  expect(lines.every(({ knots }) => knots.every(({ position }) => Math.abs(position[2]) < 1e-6))).toBe(true);
  bringDrawing(drawing(20), "crest.svg", lines[0].source!.place);
  expect(scene().lines.map(({ id }) => id)).toEqual(lines.map(({ id }) => id));
  expect(far(scene().lines[0])).toBeCloseTo(0.2, 6);
});

test("what lies beside the sheet stays out and is said; without a sheet nothing is brought", () => {
  const { least, most } = sheetForDrawings()!;
  const middle = [(least[0] + most[0]) / 2, 0, (least[1] + most[1]) / 2] as const;
  bringDrawing(drawing(10), "large.svg", { ...place(4), middle });
  expect(scene().lines.map(({ source }) => source?.part)).toEqual([expect.stringContaining("a")]);
  expect(said).toEqual([expect.stringMatching(/^One outline lies beside the sheet/)]);
  forgetCharts();
  bringDrawing(drawing(10), "other.svg", { ...place(1), middle });
  expect([scene().lines.length, said.length, sheetForDrawings()]).toEqual([1, 2, null]);
});
