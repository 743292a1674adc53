/** Edits a scene at random and holds the engine that remembers against one that begins anew. */
import type { Ignoring } from "@/core/graph";
import { kindOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { Engine, type LookedAt } from "../engine";
import { meshesCompared, meshesWanted } from "../wanted";
import { editAnywhere } from "./edits";
import { fuzzScene, nestedScene, teach } from "./scene";
import { Dice } from "./values";

/** The first difference between two results as the path to it; null where every byte is the same. */
export function difference(a: unknown, b: unknown, path = ""): string | null {
  if (Object.is(a, b)) return null;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return `${path}: ${a} ≠ ${b}`;
  if (ArrayBuffer.isView(a) && ArrayBuffer.isView(b)) {
    const [left, right] = [a, b].map((view) => Buffer.from(view.buffer, view.byteOffset, view.byteLength));
    return left.equals(right) ? null : `${path}: other bytes`;
  }
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  for (const key of keys) {
    const found = difference(a[key as never], b[key as never], `${path}.${key}`);
    if (found) return found;
  }
  return null;
}

const FRESH_EVERY = 24;

export interface FuzzOptions {
  edits: number;
  seed: number;
  /** What does not count as an input in the engine that remembers. */
  ignoring?: Ignoring;
  /** Compares at every so manieth edit: what has gone stale stays so. */
  compareEvery?: number;
  /** Looks at what pokes through at every so manieth edit. */
  pokingEvery?: number;
}

/** What went wrong first; null where nothing did. */
export async function fuzz({
  edits,
  seed,
  ignoring,
  compareEvery = 6,
  pokingEvery = 12,
}: FuzzOptions): Promise<string | null> {
  const dice = new Dice(seed);
  const engine = new Engine(ignoring ?? null);
  await teach(engine);
  let scene: Scene = fuzzScene();
  for (let nth = 0; nth < edits; nth++) {
    // Now and then all begins anew: what is edited at random wears out.
    // Every third time there are assemblies in it.
    const begun = nth / FRESH_EVERY;
    if (Number.isInteger(begun)) scene = begun % 3 === 2 ? nestedScene() : fuzzScene();
    const { scene: next, what } = editAnywhere(scene, dice, nth, (id) => engine.result(id)?.placements);
    scene = next;
    engine.evaluate(scene);
    if (nth % compareEvery !== compareEvery - 1) continue;
    const fresh = new Engine();
    await teach(fresh, new Set([...meshesWanted(scene), ...meshesCompared(scene)]));
    fresh.evaluate(scene);
    const results = (one: Engine) => Object.fromEntries(scene.dressings.map(({ id }) => [id, one.result(id)]));
    let found = difference(results(engine), results(fresh));
    const looked = lookedAt(scene, Math.floor(begun), Math.floor(nth / compareEvery));
    found ??= difference(engine.sight(looked), fresh.sight(looked), `sight of ${looked.dressing}`);
    if (nth % pokingEvery === pokingEvery - 1) found ??= difference(await pokingIn(engine), await pokingIn(fresh));
    if (found) return `edit ${nth} of seed ${seed}, ${what}: ${found}`;
  }
  return null;
}

/** Of each round another dressing is looked at that the sheet shows, now from above, now laid flat. */
function lookedAt({ dressings }: Scene, round: number, nth: number): LookedAt {
  const shown = dressings.filter(({ where }) => kindOf(where).unrolls === "sheet");
  return { dressing: shown[round % Math.max(1, shown.length)]?.id ?? "", flat: nth % 2 === 1 };
}

const pokingIn = async (engine: Engine) => Object.fromEntries((await engine.poking(() => Promise.resolve(true)))!);
