/**
 * What varied assemblies come to. A dressing that runs along lines and hangs on nothing that is another in each variant is worked
 * out for all variants at once, as if each had lines of its own; any other for each by itself.
 */
import type { Ask } from "@/core/graph";
import { CHANNEL, finish, hashText, mix, streamOf } from "@/core/math";
import {
  contentsOf,
  evaluate,
  gathered,
  kindOf,
  propsIn,
  wordsOf,
  type Contents,
  type Dressing,
  type Gathered,
  type Inside,
  type Placements,
} from "@/core/place";
import { preparationMatrix, type Assembly } from "@/core/scene";
import { forgetting, rules, sourcesFor } from "./dressings";
import { alone, idsIn, saltOf, variantName } from "./scopes";
import * as things from "./things";

/** An assembly holds no more than so many. */
export const MOST_INSIDE = 1_000_000;
/** So many lines are worked out at once. */
const MOST_LINES = 60_000;

/** What an assembly holds in each variant that stands somewhere, and which stands at which placement. */
export interface Variants {
  inside: ReadonlyMap<number, Inside | Contents>;
  at: Float64Array;
}

/** Which variant of an assembly stands at each placement of a dressing; null where all are the same. */
export function variantsAt(
  { each, most }: Pick<Assembly, "each" | "most">,
  { variation: { seed }, salts = [] }: Pick<Dressing, "variation" | "salts">,
  keys: BigUint64Array,
) {
  if (each === "same") return null;
  const words = wordsOf(keys);
  const stream = mix(streamOf(seed, CHANNEL.use), salts[0] ?? 0);
  return (i: number): number => {
    const use = finish(mix(mix(stream, words[2 * i]), words[2 * i + 1]));
    return most > 0 ? use % most : use;
  };
}

/**
 * @param k the index of the assembly among the props of the placements
 * @param wholeOf what a dressing comes to in the end, with what is in its assemblies
 */
export function variantsOf(
  ask: Ask,
  p: Placements,
  k: number,
  variantAt: (i: number) => number,
  wholeOf: (dressing: string) => Inside | undefined,
): Variants {
  const assembly = p.props[k];
  const at = new Float64Array(p.count);
  const used = new Set<number>();
  for (let i = 0; i < p.count; i++) if (p.prop[i] === k) used.add((at[i] = variantAt(i)));
  const variants = [...used];
  const prop = ask(things.prop, assembly)!;
  const parts = idsIn(ask, "dressings", assembly).map((id) =>
    isAlike(ask, id) ? together(ask, id, variants) : oneByOne(id, variants, wholeOf),
  );
  const matrix = preparationMatrix(prop);
  // What stands but once or twice is put where it stands at once.
  const few = p.count < 3 * variants.length;
  const inside = new Map(
    variants.map((variant, v) => {
      const from = parts.flatMap((part) => part[v] ?? []);
      return [variant, few ? contentsOf(from, matrix) : gathered(from, matrix, MOST_INSIDE)] as const;
    }),
  );
  return { inside, at };
}

/** Of a dressing what it comes to in each variant, in their order. */
type Parts = readonly (Gathered | null)[];

const oneByOne = (id: string, variants: readonly number[], wholeOf: (dressing: string) => Inside | undefined): Parts =>
  variants.map((variant) => {
    const inside = wholeOf(variantName(id, variant));
    return inside ? { salt: hashText(id), inside } : null;
  });

/** Whether a dressing comes to the same in all variants but for what it draws. */
function isAlike(ask: Ask, id: string): boolean {
  const own = ask(rules, id);
  if (!own || !kindOf(own.where).ordered || own.fit.clear !== "off" || own.oldPegs.length > 0) return false;
  const runsOn = own.spacing.together && own.where.lines.length > 1;
  const byHand = Object.values(own.pegs).some(({ added, held, hangs }) => added || held || hangs);
  return !runsOn && !byHand && ask(alone, id) && !holdsAssemblies(ask, own);
}

function holdsAssemblies(ask: Ask, { what, pegs }: Dressing): boolean {
  const named = [...propsIn(what), ...Object.values(pegs).flatMap(({ prop }) => prop ?? [])];
  const props = named.flatMap((id) => ask(things.mix, id)?.map(({ prop }) => prop) ?? [id]);
  return props.some((id) => ask(things.propInput, id)?.assembly);
}

function together(ask: Ask, id: string, variants: readonly number[]): Parts {
  const own = ask(rules, id)!;
  const lines = things.linesIn(ask, own.where.lines).length;
  const most = Math.max(1, Math.floor(MOST_LINES / Math.max(1, lines)));
  const out: (Gathered | null)[] = [];
  for (let from = 0; from < variants.length; from += most) {
    const some = variants.slice(from, from + most);
    const salts = some.map((variant) => saltOf(id, variant));
    const spacing = { ...own.spacing, together: false };
    const placements = evaluate(forgetting(ask), { ...own, spacing, salts }, sourcesFor(ask, id));
    const inside = { placements, leftOut: 0 };
    for (const members of byVariant(placements, some.length)) out.push({ salt: hashText(id), inside, members });
  }
  return out;
}

/** The placements of each of so many variants, whose lines follow each other. */
function byVariant({ count, line, lines }: Placements, variants: number): Uint32Array[] {
  const each = lines.length / variants;
  const ends = new Uint32Array(variants + 1);
  const of = (i: number) => Math.floor(line[i] / each);
  for (let i = 0; i < count; i++) ends[of(i) + 1]++;
  for (let v = 0; v < variants; v++) ends[v + 1] += ends[v];
  const next = ends.slice();
  const members = new Uint32Array(count);
  for (let i = 0; i < count; i++) members[next[of(i)]++] = i;
  return Array.from({ length: variants }, (_, v) => members.subarray(ends[v], ends[v + 1]));
}
