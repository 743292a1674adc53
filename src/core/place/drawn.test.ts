import { Box3, Color, Matrix4, Quaternion, Vector3 } from "three";
import fc from "fast-check";
import { makeLine } from "../line/testing";
import type { PropBounds } from "../mesh";
import { CHUNK, drawnOf, linear } from "./drawn";
import { FLAG, NO_PROP } from "./slots";
import { place } from "./testing";

/** Boxes that lie to one side, so that their mirror images lie to the other. */
const BOUNDS = new Map<string, PropBounds>([
  ["buoy", { min: [-0.5, 0, -0.2], max: [0.1, 1, 0.2] }],
  ["oar", { min: [0.2, -0.6, -0.5], max: [0.3, 0, 0.7] }],
]);

const everything = {
  what: { entries: [{ prop: "buoy" }, { prop: "oar" }] },
  spacing: { distance: 0.02 },
  stance: { up: "line" as const, turnAlong: 0.3 },
  variation: { turnOn: true, sizeOn: true, positionOn: true, mirror: 0.4, tintOn: true },
  gaps: { chance: 0.3 },
};

/** Slanted, and far from the world's origin. */
const far = makeLine({
  kind: "polyline",
  knots: [
    [1e6, 20, -5e5],
    [1e6 + 60, 29, -5e5 + 120],
  ],
});

test("each that is shown is in one chunk, with others of its prop and kind; its matrix is what its place says, and its box in the chunk's", () => {
  for (const more of [{}, { fit: { bend: true }, spacing: { distance: 0.5 } }]) {
    const p = place({ ...everything, ...more }, [far]);
    const d = drawnOf(p, (id) => BOUNDS.get(id));
    const shown = Array.from({ length: p.count }, (_, i) => i).filter(
      (i) => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP,
    );
    expect(shown.length).toBeLessThan(p.count);
    expect([...d.order].sort((a, b) => a - b)).toEqual(shown);
    expect([d.from[0], d.from.at(-1)]).toEqual([0, d.order.length]);
    let [wrong, outside, biggest] = [0, 0, 0];
    for (let c = 0; c < d.prop.length; c++) {
      biggest = Math.max(biggest, d.from[c + 1] - d.from[c]);
      const box = new Box3(
        new Vector3().fromArray(d.box, 6 * c),
        new Vector3().fromArray(d.box, 6 * c + 3),
      ).expandByScalar(1e-4);
      const own = BOUNDS.get(p.props[d.prop[c]])!;
      for (let k = d.from[c]; k < d.from[c + 1]; k++) {
        const i = d.order[k];
        const mirrored = (p.flags[i] & FLAG.mirrored) !== 0;
        const kind = p.shapes && p.shapes.entry[i] >= 0 ? CHUNK.shaped : mirrored ? CHUNK.mirrored : CHUNK.plain;
        expect([d.prop[c], d.kind[c]]).toEqual([p.prop[i], kind]);
        const expected = new Matrix4().compose(
          new Vector3().fromArray(p.position, 3 * i),
          new Quaternion().fromArray(p.rotation, 4 * i),
          new Vector3().fromArray(p.scale, 3 * i),
        );
        expected.elements.forEach((value, n) => (wrong = Math.max(wrong, Math.abs(d.matrices[16 * k + n] - value))));
        const tint = new Color(p.tints[p.tint[i]]).toArray();
        tint.forEach((value, n) => (wrong = Math.max(wrong, Math.abs(d.colours![3 * k + n] - value))));
        for (let corner = 0; corner < 8; corner++) {
          const at = [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? own.max : own.min)[axis]);
          const point = new Vector3(mirrored ? -at[0] : at[0], at[1], at[2]).applyMatrix4(expected);
          if (!box.containsPoint(point)) outside++;
        }
        expect(d.size[c]).toBeGreaterThanOrEqual(Math.max(...p.scale.subarray(3 * i, 3 * i + 3)));
      }
    }
    expect(wrong).toBeLessThan(1e-5);
    // Of what is bent only the stiff form is known.
    if (!p.shapes) expect(outside).toBe(0);
    // They stand along a line, so one way seen from above they are parted in as many as both ways together.
    expect(biggest).toBeLessThan(2500);
  }
});

test("colours come to the same linear light as in the library that draws", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 0xffffff }), (bits) => {
      const written = `#${bits.toString(16).padStart(6, "0")}`;
      linear(written).forEach((value, k) => expect(value).toBeCloseTo(new Color(written).toArray()[k], 6));
    }),
  );
});

test("what is of another prop is parted as finely, wherever it stands", () => {
  const square = (x: number) => Array.from({ length: 5000 }, (_, i) => [x + (i % 71), 0, Math.floor(i / 71)] as const);
  const places = [...square(0), ...square(3000)];
  const p = place({ what: { entries: [{ prop: "buoy" }] }, spacing: { by: "count", count: places.length } });
  const position = Float32Array.from(places.flat());
  const prop = p.prop.map((_, i) => (i < 5000 ? 0 : 1));
  const d = drawnOf({ ...p, position, prop, props: ["buoy", "oar"] }, () => undefined);
  expect(d.prop.filter((one) => one === 0)).toHaveLength(d.prop.length / 2);
  for (let c = 0; c < d.prop.length; c++) expect(d.from[c + 1] - d.from[c]).toBeLessThan(2000);
});
