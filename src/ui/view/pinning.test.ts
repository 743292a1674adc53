/** Where a pin comes to lie: what it catches on, and what it lets go of. */
import "@/store/testing";
import { place } from "@/core/place/testing";
import type { Vec3 } from "@/core/math";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import { makeSurface, pinAt, useResults, useSession } from "../state";
import { pinGrip } from "./grips/held";
import { startInHarbour } from "../state/edits/testing";
import type { Aim } from "./aim";
import { useMove } from "./move-state";
import { placeUnder } from "./pinning";

const NO_KEYS = { ctrlKey: false, metaKey: false };

/** Looking along Z at a wall, a hundred pixels a metre, where the pointer is on it. */
function aimAt(x: number, y: number): Aim {
  const pixelOf = ([px, py]: Vec3) => [100 * px, -100 * py];
  const writePixels = (
    at: Float32Array,
    origin: readonly number[],
    n: number,
    pixel: Float32Array,
    reach: Float32Array,
  ) => {
    for (let i = 0; i < n; i++) {
      pixel.set(pixelOf([0, 1, 2].map((k) => origin[k] + at[3 * i + k]) as unknown as Vec3), 2 * i);
      reach[i] = 100;
    }
  };
  const met = { surface: "wall", point: [x, y, -1], uv: [0.5, 0.5], corners: [[-90, 0, -1], [90, 0, -1], [0, 90, -1]] }; // prettier-ignore
  return { pixel: pixelOf([x, y, 0]), sight: `${x} ${y}`, pixelOf, writePixels, met: () => met } as unknown as Aim;
}

test("a pin catches on a snap point of a prop and on a knot near it, not on what is slid itself; a key lets go", () => {
  startInHarbour();
  const placements = place({ spacing: { by: "count", count: 3 } });
  useResults.setState({ byDressing: new Map([["posts", { id: "posts", placements }]]) as never });
  const [before] = [useSession.getState().snap];
  useSession.setState({ snap: { ...before, knots: true } });
  const caught = () => useMove.getState().caught?.what;
  // The second buoy stands in the middle of its line, a metre high.
  expect(placeUnder(aimAt(5.03, 1.02), NO_KEYS)).toEqual({ surface: "wall", point: [5, expect.closeTo(1, 6), 0], uv: null }); // prettier-ignore
  expect(caught()).toBe("top of Buoy");
  const free = { surface: "wall", point: [5.03, 1.02, -1], uv: [0.5, 0.5] };
  const held = { dressing: "posts", from: new Map([[placements.key[1], [5, 0, 0] as Vec3]]) };
  expect(placeUnder(aimAt(5.03, 1.02), NO_KEYS, held)).toEqual(free);
  expect(placeUnder(aimAt(5.03, 1.02), { ...NO_KEYS, ctrlKey: true })).toEqual(free);
  // Its own taken out, lines are still there to be caught on.
  useResults.setState({ byDressing: new Map() });
  expect(placeUnder(aimAt(10.03, 0.01), NO_KEYS)).toMatchObject({ point: [10, 0, 0], uv: null });
  expect(caught()).toMatch(/Quay/);
  useSession.setState({ snap: { ...before, knots: false } });
  expect(placeUnder(aimAt(10.03, 0.01), NO_KEYS)).toMatchObject({ point: [10.03, 0.01, -1] });
  useSession.setState({ snap: before });
});

test("a pin that is dragged to a snap point is tied to it where props stay tied; dragged off it is free", () => {
  startInHarbour();
  makeSurface("box", [5, 0, 0]);
  const wall = useSceneStore.getState().history.scene.surfaces[0].id;
  pinAt(null, { surface: wall, point: [4, 0, 0], uv: null }, "oar");
  const pins = () => useSceneStore.getState().history.scene.dressings.at(-1)!;
  const key = BigInt(`0x${Object.keys(pins().pegs)[0]}`);
  const own = new Engine().evaluate(useSceneStore.getState().history.scene).find(({ id }) => id === pins().id)!;
  const posts = place({ spacing: { by: "count", count: 3 } });
  const results = [own, { id: "posts", placements: posts }].map((one) => [one.id, one] as const);
  useResults.setState({ byDressing: new Map(results) as never });
  const before = useSession.getState().snap;
  const drag = (x: number, y: number, tieProps: boolean) => {
    useSession.setState({ snap: { ...before, knots: true, tieProps } });
    const aim = {
      ...aimAt(x, y),
      met: () => ({ ...aimAt(x, y).met()!, surface: wall }),
    } as unknown as Aim;
    const grip = pinGrip({ dressing: pins().id, key }, false)!;
    useSceneStore.getState().beginDrag(grip.label!);
    grip.drag({ aim, event: NO_KEYS } as never);
    useSceneStore.getState().endDrag();
    return Object.values(pins().pegs)[0].held;
  };
  expect(drag(5.03, 1.02, false)).toBeUndefined();
  expect(drag(5.03, 1.02, true)).toMatchObject({ kind: "placement", dressing: "posts", snap: "top" });
  expect(drag(7.4, 3, true)).toBeUndefined();
  useSession.setState({ snap: before });
});
