/** Pins: props held to places of surfaces that were picked by hand. */
import { WorldMesh, type TriangleMesh } from "../mesh";
import { readPins, writePins, type PinRow } from "../files";
import { FLAG } from "./slots";
import { addedOn, BOUNDS, Placing } from "./testing";
import { dressingSchema } from "./schema";

/** A roof of two slopes, 4 m wide and long, with UVs; cut into n by n squares. */
function roof(n: number, height: number, uv = true): WorldMesh {
  const [position, index, coordinates]: number[][] = [[], [], []];
  for (let i = 0; i <= n; i++) {
    for (let j = 0; j <= n; j++) {
      position.push(4 * (i / n) - 2, height * (1 - Math.abs((2 * i) / n - 1)), 4 * (j / n) - 2);
      coordinates.push(i / n, j / n);
      if (i === n || j === n) continue;
      const a = i * (n + 1) + j;
      index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  }
  const mesh: TriangleMesh = {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    attributes: uv ? [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(coordinates) }] : [],
  };
  return WorldMesh.of("roof", mesh, { position: [0, 1, 0], rotation: [0, 0, 0, 1], scale: 1 });
}

const PINNED = {
  id: "badges",
  name: "Badges",
  where: { kind: "pinned", surfaces: ["roof"] },
  what: { entries: [{ prop: "buoy" }] },
  stance: { up: "normal" },
};

function placed(mesh: WorldMesh, pegs: Record<string, unknown>, more: object = {}) {
  const dressing = dressingSchema.parse({ ...PINNED, ...more, pegs });
  return new Placing().evaluate(dressing, {
    guides: new Map(),
    bounds: BOUNDS,
    surfaces: new Map([["roof", { mesh, ground: true }]]),
  });
}

const at = (p: ReturnType<typeof placed>, i: number): number[] =>
  [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]);

test("each lies on its surface where it was pinned, off it by its clearance along the normal, as large as it is said", () => {
  const points = [[-1, 0.5, 0.2], [1.5, 0.25, -1], [0.5, 0.75, 1]] as const; // prettier-ignore
  const pegs = addedOn("roof", ...points.map((point, i) => ({ point, prop: "buoy", lift: i, ...(i > 0 && { size: i + 1 }) }))); // prettier-ignore
  const p = placed(roof(2, 1), pegs, { stance: { up: "normal", normals: "flat" } });
  expect(p.count).toBe(3);
  points.forEach(([x, y, z], i) => {
    const side = Math.sign(x) / Math.sqrt(5);
    const wanted = [x + i * side, 1 + y + (2 * i) / Math.sqrt(5), z];
    at(p, i).forEach((value, k) => expect(value).toBeCloseTo(wanted[k], 5));
    expect(p.scale[3 * i]).toBeCloseTo(i + 1, 6);
    expect(p.flags[i] & FLAG.strayed).toBe(0);
  });
});

test("another mesh takes a pin to its texture coordinates, where it has some, and to the nearest place where not; what moved far is told", () => {
  const pin = { point: [-1, 0.5, 0.2] as const, uv: [0.25, 0.55] as [number, number], prop: "buoy" };
  for (const [mesh, wanted, strayed] of [
    // The same cut more finely: it stays.
    [roof(8, 1), [-1, 1.5, 0.2], false],
    // Flat, and with UVs: straight below. Without: at the foot of the perpendicular, which is there as well.
    [roof(2, 0), [-1, 1, 0.2], true],
    [roof(2, 0, false), [-1, 1, 0.2], true],
    // Steeper: by UV at the same share of the slope, or at the nearest place.
    [roof(2, 2), [-1, 2, 0.2], true],
    [roof(2, 2, false), [-1.25, 1.75, 0.2], true],
  ] as const) {
    const p = placed(mesh, addedOn("roof", pin));
    at(p, 0).forEach((value, k) => expect(value).toBeCloseTo(wanted[k], 5));
    expect((p.flags[0] & FLAG.strayed) !== 0).toBe(strayed);
  }
});

test("typed texture coordinates say where it is; beside the chart there is no place, and nothing stands there", () => {
  const p = placed(roof(4, 1), addedOn("roof", { uv: [0.5, 0.125], prop: "buoy" }));
  at(p, 0).forEach((value, k) => expect(value).toBeCloseTo([0, 2, -1.5][k], 5));
});

test("a pin whose surface is gone stands where it was, loose", () => {
  const p = placed(roof(2, 1), addedOn("loose", { point: [7, 3, -2], prop: "buoy" }));
  expect(at(p, 0)).toEqual([7, 3, -2]);
  expect(p.fields[p.line[0]]).toBe("loose");
});

test("upright by each triangle's own normal, or by the smooth one", () => {
  const pin = addedOn("roof", { point: [-0.02, 0.99, 0], prop: "buoy" });
  const up = (normals: string) => {
    const { rotation: R } = placed(roof(2, 0.2), pin, { stance: { up: "normal", normals } });
    return 2 * (R[0] * R[1] - R[2] * R[3]);
  };
  expect(up("flat")).toBeCloseTo(-0.1 / Math.hypot(0.1, 1), 4);
  expect(Math.abs(up("smooth"))).toBeLessThan(0.01);
});

describe("pins as a CSV", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);

  test("what is written is read again", () => {
    const pins: PinRow[] = [
      { point: [1.5, -2, 0.25], uv: [0.5, 1], surface: "Sail, the large", prop: "Badge", turn: Math.PI / 3, lift: 0.01, size: 2 }, // prettier-ignore
      { point: null, uv: [0, 0.125], surface: null, prop: null, turn: 0, lift: 0, size: 1 },
    ];
    const [first, second] = readPins(writePins(pins), "pins.csv");
    expect(first).toEqual({ ...pins[0], turn: expect.closeTo(Math.PI / 3, 5) as number });
    expect(second).toEqual(pins[1]);
    expect(readPins(bytes("U, V\n0.1,0.2\n\n"), "a.csv")).toMatchObject([{ uv: [0.1, 0.2], size: 1 }]);
  });

  test.each([
    ["a,b\n1,2", /names no places/],
    ["x,y,z\n1,2,3\n1,zwei,3\n1,2,1e309", /row 3: y is “zwei”; row 4: z is “1e309”/],
    ["x,y,z\n1,,3", /row 2: it names no place/],
    ["u,v,size\n1,1,-2", /row 2: size is “-2”/],
    [`u,v\n${"x,1\n".repeat(9)}`, /row 6: u is “x”, and 4 more/],
  ])("a wrong one is refused with the rows named: %j", (text, sentence) => {
    expect(() => readPins(bytes(text), "pins.csv")).toThrow(sentence);
  });
});
