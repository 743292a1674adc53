/** Pins mirrored over a plane stand and look as their mirror images do; what lies on the plane has none. */
import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { rotate, type Quat, type Vec3 } from "@/core/math";
import { HANDLE, hexOf, type Key, type Peg } from "@/core/place";
import { tieOfPeg } from "@/core/scene";
import type { Tie } from "@/core/tie";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import { useResults } from "../results";
import {
  editDressing,
  holdHere,
  letHandleGo,
  makeSurface,
  mirrorPins,
  pinAt,
  pinsAsCsv,
  seenHandle,
  writeFreeHandle,
  writeHandleOfPatch,
  writePinMoved,
  type MirrorAxis,
} from ".";
import { scene, startInHarbour } from "./testing";

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

test("a pin and a patch's handle are tied where they are caught; moved or typed they are free, and let go they stay where they are seen", () => {
  makeSurface("box", [4, 1, 2]);
  const box = scene().surfaces.at(-1)!.id;
  pinAt(null, { surface: box, point: [4.5, 4, 2], uv: null }, "buoy");
  const pins = scene().dressings.at(-1)!.id;
  const [hex] = Object.keys(scene().dressings.at(-1)!.pegs);
  editDressing("buoys", "", ({ where }) => Object.assign(where, { kind: "patch", surfaces: [box] }));
  const tie: Tie = { kind: "placement", dressing: "oars", key: "1", snap: "top", stood: { position: [4.5, 4, 2], rotation: [0, 0, 0, 1] } }; // prettier-ignore
  const key = BigInt(`0x${hex}`);
  const drag = (held: Tie | null) =>
    useSceneStore.getState().change("Move", (draft) => {
      writePinMoved(draft, pins, key, { surface: box, point: [4.5, 4, 2], uv: null }, held);
      writeHandleOfPatch(draft, "buoys", [4.5, 4, 2], held);
    });
  const patch = () => scene().dressings.find(({ id }) => id === "buoys")!.where.patch;
  const ties = () => [scene().dressings.at(-1)!.pegs[hex].held ?? null, patch().tied];
  drag(tie);
  expect(ties()).toEqual([tie, tie]);
  drag(null);
  expect(ties()).toEqual([null, null]);
  drag(tie);
  const at = patch().handle;
  const carry = { turn: [0, 0, 0, 1] as const, from: [0, 0, 0] as const, to: [0.3, 0, -0.4] as const };
  useSceneStore.setState({ carries: new Map([[tieOfPeg("buoys", HANDLE), carry]]) });
  const seen = [at[0] + 0.3, at[1], at[2] - 0.4];
  expect(
    seenHandle(
      scene(),
      scene().dressings.find(({ id }) => id === "buoys")!,
    ),
  ).toEqual(seen.map((x) => expect.closeTo(x, 12)));
  letHandleGo("buoys");
  expect(patch()).toMatchObject({ handle: seen.map((x) => expect.closeTo(x, 12)), tied: null });
  useSceneStore.getState().undo();
  useSceneStore.setState({ carries: new Map([[tieOfPeg("buoys", HANDLE), carry]]) });
  useSceneStore.getState().change("Move patch", (draft) => writeFreeHandle(draft, "buoys", 1, 7));
  expect(patch()).toMatchObject({ handle: [expect.closeTo(seen[0], 12), 7, expect.closeTo(seen[2], 12)], tied: null });
  // In a table it is where it is seen.
  const rows = () => new TextDecoder().decode(pinsAsCsv(pins)).trim().split(/\r?\n/).map((row) => row.split(",")); // prettier-ignore
  const [head, still] = rows();
  useSceneStore.setState({ carries: new Map([[tieOfPeg(pins, hex), carry]]) });
  const [, gone] = rows();
  const moved = head.map((_, k) => Number(gone[k]) - Number(still[k])).filter((by) => Math.abs(by) > 1e-9);
  expect(moved).toEqual([0.3, -0.4].map((x) => expect.closeTo(x, 6)));
  useSceneStore.setState({ carries: new Map() });
  // Where it is seen now is where a pin stays.
  const [result] = new Engine().evaluate(scene()).filter(({ id }) => id === pins);
  useResults.setState({ byDressing: new Map([[pins, result]]) as never });
  holdHere(pins, [key], "Let pin go");
  expect(scene().dressings.at(-1)!.pegs[hex]).toMatchObject({
    on: box,
    point: [expect.any(Number), expect.closeTo(3, 2), 0],
  });
  expect(ties()[0]).toBeNull();
});
