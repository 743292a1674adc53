/** Pins mirrored over a plane stand and look as their mirror images do; what lies on the plane has none. */
import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { rotate, type Quat, type Vec3 } from "@/core/math";
import { hexOf, type Key, type Peg } from "@/core/place";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import { makeSurface, mirrorPins, pinAt, type MirrorAxis } from ".";
import { scene, startInHarbour } from "./testing";

jest.mock("sonner", () => ({ toast: Object.assign(() => undefined, { error: () => undefined }) }));

beforeEach(startInHarbour);

/** Where each pin stands and looks, by its key. */
function standing(): Map<Key, { at: Vec3; ahead: Vec3; size: number }> {
  const pins = scene().dressings.at(-1)!;
  const { placements: p } = new Engine().evaluate(scene()).find(({ id }) => id === pins.id)!;
  return new Map(
    Array.from({ length: p.count }, (_, i) => [
      p.key[i],
      {
        at: [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]) as unknown as Vec3,
        ahead: rotate([...p.rotation.subarray(4 * i, 4 * i + 4)] as unknown as Quat, [0, 0, 1]),
        size: p.scale[3 * i],
      },
    ]),
  );
}

test.each([
  ["from left to right", 0],
  ["from front to back", 2],
  ["from top to bottom", 1],
] as const)("%s", (_, axis: MirrorAxis) => {
  fc.assert(
    fc.property(evenly(0.3, 1.9), evenly(0.3, 1.9), evenly(-3, 3), (x, z, turn) => {
      startInHarbour();
      makeSurface("box", [4, 1, 2]);
      const box = scene().surfaces.at(-1)!.id;
      pinAt(null, { surface: box, point: [4 + x, 4, 2 + z], uv: [0.2, 0.3] }, "buoy");
      const [[hex, peg]] = Object.entries(scene().dressings.at(-1)!.pegs);
      useSceneStore
        .getState()
        .change("Turn", (draft) => void Object.assign(draft.dressings.at(-1)!.pegs[hex], { turn, size: 1.5 }));
      const key = BigInt(`0x${hex}`);
      expect(mirrorPins(scene().dressings.at(-1)!.id, [key], axis, new Map([[box, [0, 1.5, 0]]]))).toBe(1);
      const other = Object.keys(scene().dressings.at(-1)!.pegs).find((one) => one !== hex)!;
      const twin: Peg = scene().dressings.at(-1)!.pegs[other];
      expect([twin.uv, twin.on, peg.uv]).toEqual([undefined, box, [0.2, 0.3]]);
      const all = standing();
      const [one, two] = [all.get(key)!, all.get(BigInt(`0x${other}`))!];
      const middle = [4, 2.5, 2];
      one.at.forEach((value, k) => expect(two.at[k]).toBeCloseTo(k === axis ? 2 * middle[k] - value : value, 3));
      one.ahead.forEach((value, k) => expect(two.ahead[k]).toBeCloseTo(k === axis ? -value : value, 3));
      expect(two.size).toBeCloseTo(one.size, 6);
    }),
    { numRuns: 8 },
  );
});

test("what lies on the plane, is held by texture coordinates alone, or lies on a surface that is not shown is left alone", () => {
  makeSurface("box", [0, 0, 0]);
  const box = scene().surfaces.at(-1)!.id;
  pinAt(null, { surface: box, point: [0, 3, 1], uv: null }, "buoy");
  const { id, pegs } = scene().dressings.at(-1)!;
  const keys = Object.keys(pegs).map((hex) => BigInt(`0x${hex}`));
  const middle = new Map([[box, [0, 1.5, 0] as const]]);
  expect([
    mirrorPins(id, keys, 0, middle),
    mirrorPins(id, keys, 2, new Map()),
    mirrorPins(id, [7n], 2, middle),
  ]).toEqual([0, 0, 0]);
  expect(mirrorPins(id, keys, 2, middle)).toBe(1);
  expect(hexOf(keys[0]) in scene().dressings.at(-1)!.pegs).toBe(true);
  useSceneStore.getState().undo();
  expect(Object.keys(scene().dressings.at(-1)!.pegs)).toHaveLength(1);
});
