/** Knots on a surface that moves: seen where they have been carried, edited there, kept where they are at rest. */
import { makeLine } from "@/core/line/testing";
import { fromAxisAngle, type Vec3 } from "@/core/math";
import { sceneSchema, SCENE_VERSION, surfaceSchema } from "@/core/scene";
import { useSceneStore } from "@/store";
import { forgetMoved, useMoved } from "./moved";
import { moveKnots } from "./edits";
import { knotAtRest, seenLine } from "./seen-line";
import type { Draft } from "immer";

const FLAT = Float32Array.of(0, 0, 0, 4, 0, 0, 0, 0, 4, 4, 0, 4);
const index = Uint32Array.of(0, 2, 3, 0, 3, 1);
const line = makeLine({ kind: "polyline", knots: [[2, 0.5, 2], [3, 0.25, 1]], laid: { kind: "surface", on: ["raft"], way: "down", how: "densely", axis: [0, -1, 0] } }); // prettier-ignore

function begin(lifted: number | null, more: object = {}) {
  const surface = { ...surfaceSchema.parse({ id: "raft", name: "Raft", made: { kind: "bumps" } }), ...more };
  const scene = { ...sceneSchema.parse({ version: SCENE_VERSION, name: "S" }), surfaces: [surface] };
  useSceneStore.setState({ shown: scene, computed: scene });
  forgetMoved();
  const normal = new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]);
  if (lifted !== null)
    useMoved.setState({
      rest: new Map([["raft", { position: FLAT, index, attributes: [] }]]),
      shapes: new Map([["raft", { position: FLAT.map((x, k) => (k % 3 === 1 ? x + lifted : x)), normal }]]),
    });
}

const places = (of: typeof line): Vec3[] => of.knots.map(({ position }) => position.map((x) => Number(x.toFixed(6))) as unknown as Vec3); // prettier-ignore

test("while its surface is at rest a line is the same; lifted by movers its knots are, and what is moved there is kept at rest", () => {
  begin(null);
  expect(seenLine(line)).toBe(line);
  begin(1.5);
  expect(places(seenLine(line))).toEqual([[2, 2, 2], [3, 1.75, 1]]); // prettier-ignore
  const draft = structuredClone(line) as Draft<typeof line>;
  moveKnots(draft, new Map([[0, seenLine(line).knots[0].position]]), [0.5, 0.1, 0]);
  expect(places(draft)).toEqual([[2.5, 0.6, 2], [3, 0.25, 1]]); // prettier-ignore
});

test("where the surface itself goes about, knots go with it and come back", () => {
  const rest = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
  begin(null, { rest, position: [10, 1, 0], rotation: fromAxisAngle([0, 1, 0], Math.PI / 2), scale: 1 });
  const seen = seenLine(line);
  expect(places(seen)).toEqual([[12, 1.5, -2], [11, 1.25, -3]]); // prettier-ignore
  seen.knots.forEach(({ position }, k) =>
    knotAtRest(line, position).forEach((x, axis) => expect(x).toBeCloseTo(line.knots[k].position[axis], 9)),
  );
});
