import { distance, type Vec3 } from "../math";
import { landmarksAt, type Landmark } from "./landmarks";
import { RestMesh } from "./rest-mesh";

/** A square plate of 2 m with a square hole of 1 m, whose middle is a little aside, in triangles round about. */
function plate(): RestMesh {
  const ring = (half: number, x: number): number[] =>
    [[-1, -1], [1, -1], [1, 1], [-1, 1]].flatMap(([a, b]) => [x + half * a, 0, half * b]); // prettier-ignore
  const position = Float64Array.from([...ring(1, 0), ...ring(0.5, 0.2)]);
  const index = [0, 1, 2, 3].flatMap((i) => {
    const [j, a, b] = [(i + 1) % 4, 4 + i, 4 + ((i + 1) % 4)];
    return [i, a, j, j, a, b];
  });
  return new RestMesh({ position, index: Uint32Array.from(index), attributes: [] });
}

/** An open pipe along x, of one metre's radius, in `n` sides. */
function pipe(n: number): RestMesh {
  const position = Float64Array.from(
    Array.from({ length: n }, (_, i) => (2 * Math.PI * i) / n).flatMap((a) => [
      ...[0, Math.cos(a), Math.sin(a)],
      ...[3, Math.cos(a), Math.sin(a)],
    ]),
  );
  const index = Array.from({ length: n }, (_, i) => {
    const [a, b] = [2 * i, 2 * ((i + 1) % n)];
    return [a, a + 1, b, b, a + 1, b + 1];
  }).flat();
  return new RestMesh({ position, index: Uint32Array.from(index), attributes: [] });
}

const has = (all: readonly Landmark[], what: Landmark["what"], at: Vec3): Landmark | undefined =>
  all.find((one) => one.what === what && distance(one.position, at) < 1e-9);

describe("landmarks of a mesh", () => {
  it("are corners, middles of edges and the centre of the whole face, however it is cut into triangles", () => {
    const all = landmarksAt(plate(), 3);
    expect(all.filter(({ what }) => what === "corner")).toHaveLength(8);
    expect(has(all, "corner", [1, 0, 1])).toBeDefined();
    expect(has(all, "middle of an edge", [0, 0, -1])).toBeDefined();
    expect(all.filter(({ what }) => what === "middle of an edge")).toHaveLength(8);
    // Four square metres without one that is aside by 0.2.
    expect(has(all, "centre of a face", [-0.2 / 3, 0, 0])).toMatchObject({ direction: [0, expect.closeTo(1), 0] });
  });

  it("are the centres of holes, with the axis out of the side that was asked", () => {
    // The plate's own rim is none.
    expect(landmarksAt(plate(), 0).filter(({ what, position: [x] }) => what === "centre of a hole" && x === 0)).toEqual(
      [],
    );
    const { direction: up } = has(landmarksAt(plate(), 0), "centre of a hole", [0.2, 0, 0])!;
    expect(distance(up, [0, 1, 0])).toBeLessThan(1e-12);
    const ends = landmarksAt(pipe(12), 5);
    for (const x of [0, 3]) {
      const { direction } = has(ends, "centre of a hole", [x, 0, 0])!;
      expect(Math.abs(direction[0])).toBeCloseTo(1, 9);
    }
  });
});
