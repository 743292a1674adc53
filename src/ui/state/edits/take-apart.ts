/** Assemblies that are taken apart: what is in a use stands in the scene by itself, just as it did. */
import { toast } from "sonner";
import { multiply, rotate, writeFromBasis, quatAt, type Quat } from "@/core/math";
import { cutsAtEnd, indicesOf, kindOf, standingAt, type Dressing, type Key, type Placements } from "@/core/place";
import {
  copyOfAssembly,
  freeName,
  isAssembled,
  newId,
  nextLineNumber,
  partsElsewhere,
  preparationMatrix,
  seenParts,
  type Elsewhere,
  type Parts,
  type Prop,
  type Surface,
} from "@/core/scene";
import { linesOf, thingsOf } from "@/core/made";
import { useResults } from "../results";
import { selectDressing, selectNothing, selectPlacements } from "../session";
import { standingLoose } from "./assemblies";
import { dressingOf, scene, store } from "./common";
import { takeAway } from "./pegs";
import type { Draft } from "immer";

/** So many uses at once keep their rules. */
const MOST_RULED = 100;
/** What is larger or smaller by no more is as large as it was made. */
const SAME_SIZE = 1e-5;

/** How a prop is turned where it is set up. */
function preparedTurn(matrix: readonly number[]): Quat {
  const axis = (k: number) => [matrix[k], matrix[4 + k], matrix[8 + k]] as const;
  const out = new Float64Array(4);
  writeFromBasis(out, 0, ...axis(0), ...axis(1), ...axis(2));
  return quatAt(out, 0);
}

/** Why what is in the uses in a dressing stands otherwise there than by its own rules alone; null where it does not. */
function shapedBy({ fit, spacing, where }: Dressing): string | null {
  if (fit.apart === "each") return "each thing in it is set down by itself";
  const cuts = kindOf(where).ordered && (fit.clip || cutsAtEnd(spacing));
  return fit.bend || cuts ? "it is bent or cut" : null;
}

/** Where in a list of names things are called as they were, or next to it. */
function named<T extends { name: string }>(things: readonly T[], taken: string[]): T[] {
  return things.map((thing) => {
    const name = freeName(thing.name, taken);
    taken.push(name);
    return { ...thing, name };
  });
}

/** What is to come into the scene, by lists. */
class Coming {
  readonly parts: Parts = { lines: [], surfaces: [], dressings: [] };
  readonly #numbers = new Set(scene().lines.map(({ number }) => number));
  #next = nextLineNumber(scene());

  /** What an assembly is made of where a use of it stands, with its rules; or why it cannot be. */
  ruled(prop: Prop, dressing: Dressing, placements: Placements, i: number): Elsewhere {
    const { assembly, prepared } = prop;
    const shaped = shapedBy(dressing);
    const { position, rotation, scale } = standingAt(placements, i);
    if (shaped) return { parts: null, trouble: shaped };
    if (assembly!.each === "varied") return { parts: null, trouble: "each use of it is dealt by its place" };
    if ([prepared.size, ...scale].some((x) => Math.abs(x - 1) > SAME_SIZE))
      return { parts: null, trouble: "it is stretched, sized or mirrored" };
    const matrix = preparationMatrix(prop);
    const [x, y, z] = rotate(rotation, [matrix[3], matrix[7], matrix[11]]);
    const by = {
      turn: multiply(rotation, preparedTurn(matrix)),
      from: [0, 0, 0] as const,
      to: [position[0] + x, position[1] + y, position[2] + z] as const,
    };
    // Beyond those that its own lines keep.
    this.#next = Math.max(this.#next, nextLineNumber(assembly!));
    const isTaken = (number: number) => this.#numbers.has(number);
    const isPlain = (id: string) => scene().props.some((one) => one.id === id && !isAssembled(one));
    const found = partsElsewhere(copyOfAssembly(assembly!), by, isTaken, () => this.#next++, isPlain);
    for (const { number } of found.parts?.lines ?? []) this.#numbers.add(number);
    return found;
  }

  /** @returns the dressings, under the names that they have in the scene */
  add(parts: Partial<Parts>): Dressing[] {
    const { lines, surfaces, dressings } = this.parts;
    const names = (list: keyof Parts) => [...scene()[list], ...this.parts[list]].map(({ name }) => name);
    lines.push(...named(parts.lines ?? [], names("lines")));
    surfaces.push(...named(parts.surfaces ?? [], names("surfaces")));
    const own = named(parts.dressings ?? [], names("dressings"));
    dressings.push(...own);
    return own;
  }
}

/**
 * A surface that is part of an assembly as one by itself, where it stands in a use; null for one that is made of lines or other
 * surfaces of the assembly, and where it would have to be stretched or mirrored.
 */
function surfaceStanding(surface: Surface, whole: Placements, k: number): Surface | null {
  const { position, rotation, scale } = standingAt(whole, k);
  const [x, y, z] = scale;
  // What is mirrored has a side below zero.
  const uneven = Math.max(x, y, z) - Math.min(x, y, z) > 1e-5 * Math.abs(x);
  const made = surface.made;
  if (uneven || (made && [...linesOf(made), ...thingsOf(made)].length > 0)) return null;
  return { ...surface, id: newId(), part: false, held: null, movers: [], courses: {}, position, rotation, scale: x };
}

/** What is in some uses by themselves: loose, and surfaces; how many of these cannot be. */
function standing(
  name: string,
  whole: Placements,
  members: readonly number[],
): { parts: Partial<Parts>; stay: number } {
  const seen = new Map(seenParts(scene().props).map((surface) => [surface.id, surface]));
  const partAt = (k: number) => seen.get(whole.props[whole.prop[k]]);
  const own = members.filter(partAt);
  const surfaces = own.flatMap((k) => surfaceStanding(partAt(k)!, whole, k) ?? []);
  const dressings = standingLoose(name, whole, members.filter((k) => !partAt(k))); // prettier-ignore
  return { parts: { dressings, surfaces }, stay: own.length - surfaces.length };
}

/**
 * Takes some uses of assemblies in a dressing apart. What is in them comes with its rules, lines and surfaces where these come to
 * the same there; else it is loose. Either way all stands just as it did.
 */
export function takeApart(dressing: string, keys: Iterable<Key>): void {
  const result = useResults.getState().byDressing.get(dressing);
  const from = scene().dressings.find(({ id }) => id === dressing);
  if (!result?.apart || !from) return;
  const { placements, apart } = result;
  const propAt = (i: number) => scene().props.find(({ id }) => id === placements.props[placements.prop[i]]);
  const uses = indicesOf(placements.key, keys).filter((i) => isAssembled(propAt(i)));
  if (uses.length === 0) return;
  const coming = new Coming();
  const loose = new Set<number>();
  let trouble: string | null = uses.length > MOST_RULED ? `there are more than ${MOST_RULED}` : null;
  let first: Dressing | undefined;
  for (const i of uses) {
    const found = uses.length > MOST_RULED ? null : coming.ruled(propAt(i)!, from, placements, i);
    const added = found?.parts && coming.add(found.parts);
    if (!added) loose.add(i);
    first ??= added?.[0];
    trouble ??= found?.trouble ?? null;
  }
  const members = [...apart.of.keys()].filter((k) => loose.has(apart.of[k]));
  const { parts, stay } = standing(propAt(uses[0])!.name, apart.placements, members);
  const [firstLoose] = coming.add(parts);
  store().change("Take apart", (draft) => {
    const own = dressingOf(draft, dressing);
    if (!own) return;
    takeAway(own, uses.map((i) => placements.key[i])); // prettier-ignore
    const isEmpty = own.where.kind === "loose" && Object.keys(own.pegs).length === 0 && own.sown.length === 0;
    const { lines, surfaces, dressings } = coming.parts;
    draft.lines.push(...(lines as Draft<Parts["lines"]>));
    draft.surfaces.push(...(surfaces as Draft<Surface>[]));
    draft.dressings.splice(draft.dressings.indexOf(own) + 1, 0, ...(dressings as Draft<Dressing>[]));
    if (isEmpty) draft.dressings.splice(draft.dressings.indexOf(own), 1);
  });
  if (first) selectDressing(first.id);
  else if (firstLoose) selectPlacements(firstLoose.id, []);
  else selectNothing();
  tell(trouble, stay);
}

/** What did not come with its rules, or not at all, and why. */
function tell(trouble: string | null, stay: number): void {
  const surfaces =
    stay === 1
      ? "One surface stays in the assembly, as it is made there, or was stretched or mirrored."
      : `${stay} surfaces stay in the assembly, as they are made there, or were stretched or mirrored.`;
  const said = [
    trouble ? `What was in it is loose now, without its rules, as ${trouble}.` : "",
    stay > 0 ? surfaces : "",
  ];
  if (trouble || stay > 0) toast(said.filter(Boolean).join(" "));
}

/** Takes all uses of an assembly in what is seen apart. */
export function takeAllApart(prop: string): void {
  const results = [...useResults.getState().byDressing.values()];
  const all = results.flatMap(({ id, placements }) => {
    const index = placements.props.indexOf(prop);
    const keys = [...placements.key].filter((_, i) => index >= 0 && placements.prop[i] === index);
    return keys.length > 0 ? [{ id, keys }] : [];
  });
  for (const { id, keys } of all) takeApart(id, keys);
}
