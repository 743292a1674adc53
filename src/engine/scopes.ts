/**
 * *What is where*: the things of a scene, and those of each of its assemblies, which see only each other. Inputs are by ids, which
 * are one another's in no two of them.
 *
 * An assembly that is varied is worked out once for each variant: what varies in it is there again under its id and the variant's
 * number, `jars~1f`, naming the others of the same variant. A scope is the scene, an assembly, or a variant of one.
 */
import type { z } from "zod";
import { declared, input, query, type Ask, type Input } from "@/core/graph";
import { CHANNEL, hash, hashText } from "@/core/math";
import { familyOf, type Line } from "@/core/line";
import { kindOf, type Dressing } from "@/core/place";
import { eachId, withIds } from "@/core/schema";
import { renamingBy, THING_SCHEMAS, type Surface } from "@/core/scene";

export type List = "lines" | "surfaces" | "dressings" | "props";

/** Inputs by ids; undefined for what the scene does not have. */
export const lineInput = input<Line | undefined>("line");
export const surfaceInput = input<Surface | undefined>("surface");
export const dressingInput = input<Dressing | undefined>("dressing");
/** The assembly that a thing is in; undefined for what is in none. */
export const scopeInput = input<string | undefined>("assembly of");
/** The ids of a list of the scene, by its name, or of an assembly, by both names. */
export const idsInput = input<readonly string[] | undefined>("ids");

/** The scene itself. */
export const WHOLE = "";
export const listName = (list: List, scope: string): string => (scope === WHOLE ? list : `${list} ${scope}`);

const VARIANT = "~";
export const variantName = (id: string, variant: number): string => `${id}${VARIANT}${variant.toString(16)}`;

/** What is known of variants besides is by several ids. */
export const keyOfIds = (...ids: readonly string[]): string => JSON.stringify(ids);
export const idsOfKey = (key: string): string[] => JSON.parse(key) as string[];

/** Whether something is remembered for variants, of which there may be others at any time. */
export const isOfVariants = (key: string): boolean => /^\["|~[0-9a-f]{1,8}(\/|$)/.test(key);

/** The id and the number of a variant; null for what is none. */
export function variantOf(id: string): { id: string; variant: number } | null {
  const cut = id.lastIndexOf(VARIANT);
  if (cut < 0) return null;
  const variant = Number.parseInt(id.slice(cut + 1), 16);
  return Number.isInteger(variant) ? { id: id.slice(0, cut), variant } : null;
}

/** The id of what something is a variant of; its own where it is none. */
export const plainId = (ask: Ask, id: string): string =>
  ask(scopeInput, id) === undefined ? (variantOf(id)?.id ?? id) : id;

export const scopeOf = query("scope", (ask, id): string => {
  const given = ask(scopeInput, id);
  if (given !== undefined) return given;
  const made = variantOf(id);
  const scope = made ? ask(scopeInput, made.id) : undefined;
  return made && scope !== undefined ? variantName(scope, made.variant) : WHOLE;
});

/** What of an assembly is another in each variant: its dressings, and whatever hangs on any. Said in `reached.ts`. */
export const varying = declared<ReadonlySet<string>>("varying");

/** The ids of what a scope has. */
export function idsIn(ask: Ask, list: List, scope: string): readonly string[] {
  const given = ask(idsInput, listName(list, scope));
  const made = given ? null : variantOf(scope);
  if (!made) return given ?? [];
  const varies = ask(varying, made.id);
  const all = ask(idsInput, listName(list, made.id)) ?? [];
  return all.map((id) => (varies.has(id) ? variantName(id, made.variant) : id));
}

/** The same for where something is. */
export const idsBeside = (ask: Ask, list: List, id: string): readonly string[] => idsIn(ask, list, ask(scopeOf, id));

/** Whether it is a variant of a thing. */
export const isVariant = query("is variant", (ask, id) => plainId(ask, id) !== id);

/** Whether a thing names nothing that is another in each variant. */
export const alone = query("alone", (ask, id): boolean => {
  const varies = ask(varying, ask(scopeOf, id));
  let isAlone = true;
  const look = (schema: z.ZodType, thing: unknown) =>
    eachId(
      schema,
      thing,
      (other) => void (isAlone &&= other === id || !(varies.has(other) || varies.has(familyOf(other) ?? ""))),
    );
  look(THING_SCHEMAS.lines, ask(lineInput, id));
  look(THING_SCHEMAS.surfaces, ask(surfaceInput, id));
  look(THING_SCHEMAS.dressings, ask(dressingInput, id));
  return isAlone;
});

/** Finds a thing by its id, or by that of a variant of it. */
const variantsOf =
  <T extends Line | Surface | Dressing>(of: Input<T | undefined>, schema: z.ZodType) =>
  (ask: Ask, id: string): T | undefined => {
    const given = ask(of, id);
    const made = given ? null : variantOf(id);
    const plain = made ? ask(of, made.id) : undefined;
    const scope = made && plain ? ask(scopeInput, made.id) : undefined;
    if (!made || !plain || scope === undefined) return given;
    const varies = ask(varying, scope);
    return varies.has(made.id)
      ? inVariant(plain, ask(alone, made.id) ? null : schema, varies, made.variant)
      : undefined;
  };

/** Things as they are; of variants with the names that things have in theirs. */
export const ownLine = query("own line", variantsOf(lineInput, THING_SCHEMAS.lines));
export const ownSurface = query("own surface", variantsOf(surfaceInput, THING_SCHEMAS.surfaces));
export const ownDressing = query("own dressing", variantsOf(dressingInput, THING_SCHEMAS.dressings));

/** What a dressing draws by in a variant, besides. */
export const saltOf = (dressing: string, variant: number): number =>
  hash(0, CHANNEL.variant, variant, hashText(dressing)) || 1;

/** What a thing says, with the names of a variant, and of a dressing with what makes it another there. */
function inVariant<T extends Line | Surface | Dressing>(
  thing: T,
  /** Null for what names nothing that is another in each variant. */
  schema: z.ZodType | null,
  varies: ReadonlySet<string>,
  variant: number,
): T {
  const id = variantName(thing.id, variant);
  const names = () => renamingBy(new Map([...varies].map((one) => [one, variantName(one, variant)])));
  const named: T = schema === null ? { ...thing, id } : withIds(schema, thing, names());
  if (!("variation" in named)) return named;
  const salt = saltOf(thing.id, variant);
  // What is spread over something draws its places, too.
  if (kindOf(named.where).ordered) return { ...named, salts: [salt] };
  const seed = hash(named.variation.seed, CHANNEL.variant, salt, 0);
  return { ...named, variation: { ...named.variation, seed } };
}
