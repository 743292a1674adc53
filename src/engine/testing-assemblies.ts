/** What tests of assemblies begin with. */
import { makeLine } from "@/core/line/testing";
import { sceneSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";

const knots = (...list: [number, number, number][]) => list;
const line = (id: string, more: object) => makeLine({ id, name: id, ...more } as never);

export interface Asked {
  each?: "same" | "varied";
  most?: number;
  size?: number;
  uses?: number;
  /** What of the outer dressing's variation is on. */
  variation?: object;
  inner?: object;
  /** What of its Fit is. */
  fit?: object;
  /** What of the Fit of the trays on a shelf is, whose line is a bow then. */
  trays?: object;
  /** What of the tray's board is: a surface in it. */
  board?: object;
}

/** A scene with a tray of props along a line, and shelves that hold trays, along another. */
export function shelves({
  each = "same",
  most = 0,
  size = 1,
  uses = 5,
  variation = {},
  inner = {},
  fit = {},
  board,
  trays,
}: Asked = {}): Scene {
  const { props } = harbourScene();
  const [a, b] = props.map(({ id }) => id);
  const assembly = (id: string, prepared: object, what: object, more: object = {}) => ({
    id,
    name: id,
    asset: null,
    bounds: { min: [-1, 0, -1], max: [1, 1, 1] },
    triangles: 0,
    prepared,
    assembly: { each, most, ...more, ...what },
  });
  return sceneSchema.parse({
    ...harbourScene(),
    props: [
      ...props,
      assembly("tray", { front: "+x", size, pivot: "point", point: [2, 1, 0] }, {
        lines: [line("edge", { number: 1, kind: "polyline", knots: knots([0, 1, 0], [3, 1.5, 1]) })],
        surfaces: board ? [{ id: "boarding", name: "Boarding", made: { kind: "box", width: 3, depth: 1, height: 0.1 }, position: [1.5, 1, 0.5], rotation: [0, Math.sin(0.2), 0, Math.cos(0.2)], scale: 1.25, ...board }] : [],
        dressings: [
          { id: "jars", name: "jars", where: { lines: ["edge"] }, what: { entries: [{ prop: a }, { prop: b }], order: "mixed" },
            spacing: { by: "count", count: 4 }, variation: { turnOn: true, turnUp: [-1, 1], mirror: 0.4, mirrorOn: true }, ...inner },
        ],
      }),
      assembly("shelf", { pivot: "bottom" }, {
        lines: [line("board", { number: 1, kind: trays ? "smooth" : "polyline", knots: trays ? knots([0, 0, 0], [2, 0, 3], [0, 0, 6]) : knots([0, 0, 0], [0, 0, 6]) })],
        dressings: [
          { id: "trays", name: "trays", where: { lines: ["board"] }, what: { entries: [{ prop: "tray" }] }, spacing: { by: "count", count: 3 }, ...(trays && { fit: trays }) },
          { id: "loose", name: "loose", where: { lines: ["board"] }, what: { entries: [{ prop: a }] }, spacing: { by: "count", count: 2 } },
        ],
      }),
    ],
    lines: [line("street", { number: 9, kind: "circle", knots: knots([3, 2, 1]), radius: 40 })],
    surfaces: [],
    dressings: [
      { id: "shops", name: "shops", where: { lines: ["street"] }, what: { entries: [{ prop: "shelf" }, { prop: b }] },
        spacing: { by: "count", count: 2 * uses }, variation, fit },
    ],
  }); // prettier-ignore
}
