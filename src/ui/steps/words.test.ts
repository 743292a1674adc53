import { STEP_NAMES, type Dressing } from "@/core/place";
import { surfaceSchema } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "@/engine/engine";
import { sentence, summaries } from "./words";

/** The sentence as it is read, with plain spaces. */
function read(change: (dressing: Dressing) => void = () => undefined): string {
  const scene = harbourScene();
  scene.surfaces.push(surfaceSchema.parse({ id: "sky", name: "Sky", made: { kind: "box" } }));
  change(scene.dressings[0]);
  return sentence(scene.dressings[0], scene)
    .map(({ text }) => text)
    .join("")
    .replaceAll("\u00a0", " ");
}

test("a plain dressing is one plain sentence", () => {
  expect(read()).toBe("Stand buoy along Quay every 1.00 m, up from the world.");
});

test("a patch says how it is laid out: in rows, at places, or in the pattern within its outlines", () => {
  const words = (layout: object) =>
    read((d) => {
      d.where = { ...d.where, kind: "patch", surfaces: ["sky"] };
      d.where.patch = { ...d.where.patch, layout: { ...d.where.patch.layout, ...layout } };
    });
  expect(words({ rows: 1, columns: 4 })).toContain("as a patch on Sky in 1 row of 4, 1.00 m apart, up");
  expect(words({ rows: 7, across: 0.68, along: 0.46 })).toContain("in 7 rows of 6, 0.68 m by 0.46 m apart, up");
  expect(words({ kind: "list", places: [{ id: 1, at: [0, 0] }] })).toContain("at 1 place, up");
  expect(words({ kind: "area" })).toContain("evenly, 1.00 m apart, up");
});

test("what changes over time is said at the end, each opening its step", () => {
  const course = {
    keyframes: [{ at: 0, value: 1, go: "smooth" as const }],
    before: "hold" as const,
    after: "hold" as const,
  };
  const paths = ["spacing/slide", "fit/up", "fit/across"];
  const words = (n: number) =>
    read((d) => (d.courses = Object.fromEntries(paths.slice(0, n).map((path) => [path, course]))));
  expect(words(1)).toMatch(/the world\. Slide changes over time\.$/);
  expect(words(2)).toMatch(/\. Slide and up change over time\.$/);
  expect(words(3)).toMatch(/\. Slide, up and across change over time\.$/);
});

test.each<[(dressing: Dressing) => void, string]>([
  [(d) => (d.spacing = { ...d.spacing, by: "count", count: 7 }), "along Quay 7 to each line"],
  [(d) => (d.spacing.remainder = "shared"), "about every 1.00 m"],
  [(d) => (d.spacing.measure = "straight"), "every 1.00 m, measured straight"],
  [(d) => (d.spacing.by = "knots"), "at each knot"],
  [(d) => (d.spacing = { ...d.spacing, by: "divide", parts: 9 }), "at each of 9 parts"],
  [(d) => (d.spacing = { ...d.spacing, by: "divide", every: 3 }), "at every 3rd of 12 parts"],
  [(d) => (d.spacing = { ...d.spacing, by: "list", list: [4] }), "at 1 place,"],
  [(d) => (d.spacing.distance = 0.0375), "every 0.0375 m"],
  [(d) => (d.spacing.distance = 12.3456), "every 12.35 m"],
  [(d) => (d.stance = { ...d.stance, meetsUp: "top", up: "plumb" }), "up from the world, plumb"],
  [(d) => (d.stance.up = "line"), "up from the line"],
  [(d) => (d.fit = { ...d.fit, along: -0.5, across: 0.25, up: -1 }), "0.50 m back, 0.25 m to the left, 1.00 m down"],
  [(d) => (d.variation = { ...d.variation, turnOn: true, turnUp: [-1, 0.5] }), "loosened by ±57.3°"],
  [(d) => (d.variation = { ...d.variation, sizeOn: true, size: [0.5, 2] }), "0.5–2 times the size"],
  [(d) => (d.gaps.chance = 0.25), "with 1 in 4 blank."],
  [(d) => (d.gaps.chance = 0.6), "with 60 % blank."],
  [(d) => (d.what = { ...d.what, first: "oar", last: "oar" }), "Stand buoy with oar first and last along"],
  [
    (d) => (d.what = { ...d.what, nthProp: "oar", nth: 3, corner: "buoy" }),
    "with buoy at corners and oar every 3rd along",
  ],
  [(d) => (d.what.tagged = [{ tag: "gate", prop: "oar" }]), "with oar on gate along"],
  [(d) => (d.spacing = { ...d.spacing, by: "end", gap: -0.1 }), "end to end, 0.10 m over each other"],
  [(d) => (d.spacing.by = "density"), "about every 1.00 m, closer and wider along the line"],
  [(d) => (d.stance = { ...d.stance, forward: "heading", heading: Math.PI / 2 }), "facing heading 90°"],
  [(d) => (d.stance = { ...d.stance, forward: "away", thing: "jetty" }), "facing away from Jetty"],
  [
    (d) => (d.fit = { ...d.fit, rows: 3, stagger: true, bend: true }),
    "in 3 staggered rows 0.50 m apart, bent along it",
  ],
  [(d) => (d.gaps.stretches = [{ line: "quay", from: 1, to: 2 }]), "with a stretch held open"],
  [(d) => (d.what.entries = []), "Stand no prop yet along"],
  [(d) => (d.where.lines = ["quay", "jetty"]), "along Quay and Jetty every"],
  [(d) => (d.where.lines = ["nowhere"]), "along no line yet"],
  [(d) => (d.stance.up = "normal"), "up from the surface"],
  [(d) => (d.where.kind = "inside"), "inside no volume yet evenly, 1.00 m apart"],
  [(d) => Object.assign(d.where, { kind: "inside", volumes: ["sky"] }), "inside Sky"],
  [
    (d) => {
      d.where.kind = "inside";
      d.spacing = { ...d.spacing, pattern: "hexagonal", amount: "density", perVolume: 3 };
      d.stance = { ...d.stance, forward: "outward", up: "normal" };
      d.gaps.walls = 0.5;
      d.gaps.slopeOn = true;
    },
    "packed, 3 to the cubic metre, up from the middle, facing outward, with 0.50 m kept from the walls.",
  ],
  [(d) => Object.assign(d.where, { kind: "over", surfaces: ["sky"] }), "over Sky evenly, 1.00 m apart"],
  [
    (d) => {
      d.where.kind = "over";
      d.spacing.pattern = "uv";
      d.stance.forward = "uv";
      d.gaps.colours.on = true;
    },
    "in rows of UV, 1.00 m apart, up from the world, facing along u, with a mask.",
  ],
  [
    (d) => {
      d.variation.pose = "own";
      d.spacing.onceIn = 12;
      d.stance.banks = true;
    },
    "each playing its own clip, going along once in 12 s, leaning into its bends.",
  ],
  [(d) => (d.where.kind = "loose"), "by hand one by one, 0 in all, up from the world."],
])("what differs from plain is said (%#)", (change, words) => {
  expect(read(change)).toContain(words);
});

test("a mix is told as one, and counts where they stand in sequence", () => {
  const entries = harbourScene().dressings[1].what.entries;
  expect(read((d) => (d.what = { ...d.what, entries, order: "sequence" }))).toContain("Stand 2 × oar, buoy along");
  expect(read((d) => (d.what = { ...d.what, entries, order: "mixed" }))).toContain("Stand a mix of oar or buoy along");
});

test("each part of the sentence that belongs to a step says to which, in the order of the steps", () => {
  const scene = harbourScene();
  const dressing = scene.dressings[1];
  dressing.fit.up = 1;
  const steps = sentence(dressing, scene).flatMap(({ step }) => step ?? []);
  expect(new Set(steps)).toEqual(new Set(STEP_NAMES));
  expect(steps).toHaveLength(STEP_NAMES.length);
});

test("every step has a summary, also before anything is placed", () => {
  const scene = harbourScene();
  const { placements } = new Engine().evaluate(scene)[1];
  for (const placed of [undefined, placements]) {
    const said = summaries(scene.dressings[1], scene, placed);
    for (const step of STEP_NAMES) expect(said[step].length).toBeGreaterThan(2);
  }
  const said = summaries(scene.dressings[1], scene, placements);
  expect(said.where.replaceAll("\u00a0", " ")).toBe("2 lines · 14.00 m");
  expect(said.spacing).toBe(`${placements.count} slots · ${placements.count - placements.blanks} shown`);
  expect(said.gaps).toContain("1 pegged");
});
