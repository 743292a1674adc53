/**
 * What varied assemblies come to. A dressing that runs along lines and hangs on nothing that is another in each variant is worked
 * out for all variants at once, as if each had lines of its own; any other for each by itself.
 */
import { query, type Ask } from "@/core/graph";
import { CHANNEL, finish, hashText, mix, streamOf } from "@/core/math";
import {
  contentsOf,
  evaluated,
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
import { pick } from "@/core/schema";
import { forgetting, placements, rules, sourcesFor } from "./dressings";
import { seenIn } from "./seen-surfaces";
import { alone, idsIn, idsOfKey, keyOfIds, saltOf, variantName } from "./scopes";
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

/** Whether uses of an assembly differ, and how many different ones there are; null for any other prop. */
const ruleOf = query("rule of assembly", (ask, id) => {
  const assembly = ask(things.propInput, id)?.assembly;
  return assembly ? pick(assembly, ["each", "most"]) : null;
});

/** What the variants are drawn by that stand in a dressing. */
const drawnBy = query("variants drawn by", (ask, id) => {
  const own = ask(rules, id);
  return own ? mix(streamOf(own.variation.seed, CHANNEL.use), own.salts?.[0] ?? 0) : 0;
});

/**
 * Which variants of an assembly stand in a dressing, by the ids of both, and which stands at which placement; null where all are the
 * same.
 */
export const variantsUsed = query("variants used", (ask, key): { variants: Float64Array; at: Float64Array } | null => {
  const [dressing, assembly] = idsOfKey(key);
  const p = ask(placements, dressing);
  const rule = ask(ruleOf, assembly);
  if (!p || rule?.each !== "varied") return null;
  const stream = ask(drawnBy, dressing);
  const [words, index] = [wordsOf(p.key), p.props.indexOf(assembly)];
  const at = new Float64Array(p.count);
  const used = new Set<number>();
  for (let i = 0; i < p.count; i++) {
    if (p.prop[i] !== index) continue;
    const use = finish(mix(mix(stream, words[2 * i]), words[2 * i + 1]));
    used.add((at[i] = rule.most > 0 ? use % rule.most : use));
  }
  return { variants: Float64Array.from(used), at };
});

/** The variants alone, which stay the same wherever they stand. */
const variantsIn = query("variants in", (ask, key) => ask(variantsUsed, key)?.variants ?? new Float64Array(0));

/**
 * What the variants of an assembly come to that stand in a dressing; null where all uses are the same.
 *
 * @param matrix how the assembly is prepared
 * @param wholeOf what a dressing comes to in the end, with what is in its assemblies
 */
export function variantsOf(
  ask: Ask,
  dressing: string,
  assembly: string,
  matrix: readonly number[],
  wholeOf: (dressing: string) => Inside | undefined,
): Variants | null {
  const used = ask(variantsUsed, keyOfIds(dressing, assembly));
  if (!used) return null;
  const { variants, at } = used;
  const parts = idsIn(ask, "dressings", assembly).map(
    (id) => ask(together, keyOfIds(dressing, assembly, id)) ?? oneByOne(id, variants, wholeOf),
  );
  // What stands but once or twice is put where it stands at once.
  const few = at.length < 3 * variants.length;
  const inside = new Map(
    Array.from(variants, (variant, v) => {
      const from = [...parts.flatMap((part) => part[v] ?? []), ...seenIn(ask, variantName(assembly, variant))];
      return [variant, few ? contentsOf(from, matrix) : gathered(from, matrix, MOST_INSIDE)] as const;
    }),
  );
  return { inside, at };
}

/** Of a dressing what it comes to in each variant, in their order. */
type Parts = readonly (Gathered | null)[];

const oneByOne = (id: string, variants: Float64Array, wholeOf: (dressing: string) => Inside | undefined): Parts =>
  Array.from(variants, (variant) => {
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
  return props.some((id) => ask(things.isAssembly, id));
}

/** A dressing in all variants that stand in another, by the ids of that, the assembly and its own; null where it has to be worked out one by one. */
const together = query("variants together", (ask, key): Parts | null => {
  const [dressing, assembly, id] = idsOfKey(key);
  if (!isAlike(ask, id)) return null;
  const variants = ask(variantsIn, keyOfIds(dressing, assembly));
  const own = ask(rules, id)!;
  const lines = things.linesIn(ask, own.where.lines).length;
  const most = Math.max(1, Math.floor(MOST_LINES / Math.max(1, lines)));
  const out: (Gathered | null)[] = [];
  for (let from = 0; from < variants.length; from += most) {
    const salts = Array.from(variants.subarray(from, from + most), (variant) => saltOf(id, variant));
    const spacing = { ...own.spacing, together: false };
    const { placements: placed } = evaluated(forgetting(ask), { ...own, spacing, salts }, sourcesFor(ask, id));
    const inside = { placements: placed, leftOut: 0 };
    for (const members of byVariant(placed, salts.length)) out.push({ salt: hashText(id), inside, members });
  }
  return out;
});

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
