/**
 * `assemblies-100k`: 1,000 uses of an assembly of 100, of which there are 12 different ones or one for each use, against as many
 * plain placements along a line by the same rules; and how long a peg inside takes until it is everywhere.
 */
import { emptyScene, sceneSchema, type Scene } from "../src/core/scene";
import { hexOf, lineKey } from "../src/core/place";
import { Engine } from "../src/engine/engine";
import type { Contest, Row } from "./row";

const [USES, EACH] = [1_000, 100];
const APART = 0.2;

const prop = (id: string) => ({
  id,
  name: id,
  asset: "a".repeat(64),
  bounds: { min: [-0.05, 0, -0.05], max: [0.05, 0.2, 0.05] },
  triangles: 12,
});
const line = (id: string, length: number) => ({
  id,
  name: id,
  number: 1,
  kind: "smooth",
  knots: Array.from({ length: 30 }, (_, i) => ({ position: [(i * length) / 29, 0, 0.02 * length * Math.sin(i)] })),
});
const rules = (count: number) => ({
  what: { entries: [{ prop: "a", count: 3 }, { prop: "b", count: 2 }, { prop: "c" }] },
  spacing: { by: "count", count },
  variation: { turnOn: true, turnUp: [-0.3, 0.3], sizeOn: true, size: [0.95, 1.05] },
  gaps: { chance: 0.05 },
});
const dressing = (id: string, along: string, ruled: object) => ({ id, name: id, where: { lines: [along] }, ...ruled });

const scene = (props: object[], lines: object[], dressings: object[]): Scene =>
  sceneSchema.parse({
    ...emptyScene("Bench"),
    props: [...["a", "b", "c"].map(prop), ...props],
    lines,
    dressings,
  });

const plain = (): Scene => {
  const all = USES * EACH;
  return scene([], [line("street", all * APART)], [dressing("all", "street", rules(all))]);
};

const assembled = (varied: { each: string; most: number }): Scene => {
  const parts = { lines: [line("shelf", EACH * APART)], dressings: [dressing("jars", "shelf", rules(EACH))] };
  const assembly = { ...prop("rack"), asset: null, assembly: { ...varied, ...parts } };
  const uses = { what: { entries: [{ prop: "rack" }] }, spacing: { by: "count", count: USES } };
  return scene([assembly], [line("street", USES * APART)], [dressing("all", "street", uses)]);
};

/** How many stand in all, worked out anew. */
function standing(one: Scene): number {
  const engine = new Engine();
  engine.take(one);
  return engine.standing("all");
}

export function assemblyContests(): Contest[] {
  const by = plain();
  const contest = (name: string, most: number): Contest => {
    const own = assembled({ each: "varied", most });
    const [ours, theirs] = [standing(own), standing(by)];
    // Of blanks there are as many as there happen to be.
    if (Math.abs(ours - theirs) > 0.02 * theirs) throw new Error(`They come to ${ours} and ${theirs} placements.`);
    return {
      name,
      n: USES * EACH,
      peer: "as many plain placements",
      ours: () => standing(own),
      theirs: () => standing(by),
    };
  };
  return [contest("assemblies-100k", 12), contest("assemblies-100k-all", 0)];
}

/** One peg in an assembly that is used 1,000 times. */
export function assemblyPeg(): Row {
  const own = assembled({ each: "same", most: 0 });
  const engine = new Engine();
  const times: number[] = [];
  for (let k = 0; k < 20; k++) {
    const pegs = { [hexOf(lineKey(1, 1 + k))]: { on: "shelf", removed: true } };
    const props = own.props.map((one) =>
      one.assembly ? { ...one, assembly: { ...one.assembly, dressings: one.assembly.dressings.map((d) => ({ ...d, pegs })) } } : one,
    ); // prettier-ignore
    const start = performance.now();
    engine.take({ ...own, props });
    engine.standing("all");
    times.push(performance.now() - start);
  }
  const ms = times.slice(5).sort((a, b) => a - b)[7];
  return {
    name: "assembly-peg",
    n: USES * EACH,
    ours_ms: ms,
    peer: null,
    peer_ms: null,
    ratio: null,
    note: "ms until a peg inside is in all uses",
  };
}
