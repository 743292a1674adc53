import { foundOn, type Told } from "./testing";

import { makeLine } from "../line/testing";
import { addedOn, evaluate, dressing, field, surroundings } from "../place/testing";

/** Level on the left of x = 0, rising by 45° on the right. */
const MEADOW = field(16, (x) => Math.max(0, x), "meadow");
const AREA = makeLine({
  id: "area",
  number: 4,
  kind: "polyline",
  closed: true,
  knots: [
    [-6, 0, -6],
    [6, 0, -6],
    [6, 0, 6],
    [-6, 0, 6],
  ],
});
const OPEN = makeLine({ ...AREA, id: "open", number: 5, closed: false, knots: AREA.knots.map((k) => k.position) });

type Input = NonNullable<Parameters<typeof dressing>[0]>;

function found(input: Input): Told[] {
  const dressed = dressing(
    { spacing: { distance: 2 }, ...input, where: { kind: "over", surfaces: ["meadow"], ...input.where } },
    [],
  );
  const around = surroundings([AREA, OPEN]);
  const surfaces = new Map([["meadow", { mesh: MEADOW, ground: true }]]);
  return foundOn(dressed, evaluate(dressed, { ...around, surfaces }), around, {
    nameOf: (id) => `“${id}”`,
    image: (asset) => asset.startsWith("b"),
    fields: new Map([["meadow", MEADOW]]),
  });
}

const checks = (input: Input) => found(input).map(({ check }) => check);
const peg = { prop: "buoy" };

test("an ordinary spread has no findings, whatever it stands on and whichever way it leans", () => {
  for (const up of ["world", "normal", "point"] as const) expect(checks({ stance: { up } })).toEqual([]);
  expect(checks({ where: { areas: ["area"] }, gaps: { slopeOn: true, slope: [0, 1] } })).toEqual([]);
});

test("what nothing stands on is named, with why", () => {
  const [high] = found({ gaps: { heightOn: true, height: [50, 60] } });
  expect(high.message).toBe("Nothing stands on “meadow”: the gaps leave no room there, or 2.00 m is too far apart.");
  expect(found({ where: { surfaces: ["gone"] } })[0].message).toContain("“gone”: its mesh is not there");
  expect(found({ where: { surfaces: [], areas: ["open"] } })[0].message).toContain("it is not closed");
  expect(found({ where: { surfaces: [], areas: [] } })).toEqual([]);
});

test("what is put by hand outside the area or on too steep a slope is found, and a mend is at hand", () => {
  const at = (point: [number, number, number]) => ({ pegs: addedOn("meadow", { ...peg, point }) });
  const [out] = found({ ...at([-7, 0, 0]), where: { areas: ["area"] } }).filter(({ check }) => check === "outside");
  expect(out).toMatchObject({ count: 1, mend: "leave-blank" });
  expect(out.worst).toBeCloseTo(1, 2);
  expect(checks({ ...at([-5, 0, 0]), where: { areas: ["area"] } })).not.toContain("outside");
  expect(checks({ ...at([-7, 0, 0]), where: { areas: [], holes: [] } })).not.toContain("outside");
  const level = { gaps: { slopeOn: true, slope: [0, 0.3] as [number, number] } };
  const [steep] = found({ ...level, ...at([5, 5, 0]) }).filter(({ check }) => check === "steep");
  expect(steep).toMatchObject({ check: "steep", count: 1, mend: "unpeg" });
  expect(steep.message).toContain("45°");
  expect(checks({ ...level, ...at([-5, 0, 0]) })).not.toContain("steep");
});

test("a patch that leaves nothing standing says why: no outline yet, no room, or nothing of its rows on the surface", () => {
  const says = (layout: object, input: Input = {}) =>
    found({ ...input, where: { kind: "patch", patch: { layout }, ...input.where } }).map(({ message }) => message);
  expect(says({ kind: "area" })).toEqual(["Nothing stands on “meadow”: the layout has no outline yet."]);
  expect(says({ kind: "area" }, { where: { areas: ["area"] } })).toEqual([]);
  expect(says({}, { gaps: { heightOn: true, height: [50, 60] } })[0]).toContain(
    "no place on it, or the gaps leave none",
  );
});

test("a mask whose picture is not there is told of, and keeps nothing off", () => {
  const mask = { asset: "a".repeat(64), name: "spots.png" };
  const [lost] = found({ gaps: { images: [mask] } }).filter(({ check }) => check === "lost-mask");
  expect(lost.message).toContain("“spots.png”");
  expect(checks({ gaps: { images: [mask] } })).not.toContain("bare");
  const known = { ...mask, asset: "b".repeat(64) };
  expect(checks({ gaps: { images: [known] } })).not.toContain("lost-mask");
  const [flat] = found({ gaps: { images: [{ ...known, project: "uv" }] } }).filter((f) => f.check === "lost-mask");
  expect(flat.message).toContain("goes by UVs, which the surface does not have");
});

test("what an offset or chance moves off the surface is found with how far; what rises as it was asked to is not", () => {
  expect(checks({ fit: { up: 3 } })).toEqual([]);
  const aside = found({ fit: { along: 4 }, stance: { forward: "heading", heading: Math.PI / 2 } });
  const [off] = aside.filter(({ check }) => check === "off-surface");
  // From the level into the slope, and from the slope into the air: never deeper than √½ of the way.
  expect(off.worst).toBeGreaterThan(1);
  expect(off.worst).toBeLessThanOrEqual(4);
  expect(off.mend).toBe("drop-on-it");
  expect(checks({ fit: { along: 4, drop: "nearest" }, stance: { forward: "heading" } })).not.toContain("off-surface");
});
