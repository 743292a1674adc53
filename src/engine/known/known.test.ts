/**
 * *Scenes whose placements are known*: what each came to when it was written down, so that nobody changes what artists have
 * without knowing. Whoever changes it on purpose writes it anew by `KNOWN=write npx jest known`, reads what differs, and says
 * so; `KNOWN=more` adds scenes, by random edits of all there is.
 */
import { kindOf } from "@/core/place";
import { parseScene, type Scene } from "@/core/scene";
import { Engine } from "../engine";
import { edit } from "../fuzz/edits";
import { fuzzScene, teach } from "../fuzz/scene";
import { Dice } from "../fuzz/values";
import { changed, readKnown, summaryOf, TASK, writeKnown, type Summary } from "./summary";

/** One a line, packed. */
interface Known {
  scene: unknown;
  /** By dressings. */
  sums: Record<string, Summary>;
}

const FILE = "src/engine/known/known.jsonl.gz";
const MORE = 10;
/** So many edits, and then one more until so much stands there, in so many dressings at least. */
const EDITS = 12;
const STANDING = [40, 400];
const DRESSINGS = 4;

async function resultsOf(scene: Scene) {
  const engine = new Engine();
  await teach(engine);
  engine.evaluate(scene);
  // Its surfaces laid flat are asked for by one dressing at a time.
  return scene.dressings.map(({ id, where }) => {
    const result = engine.result(id)!;
    return { ...result, sight: engine.sight({ dressing: id, flat: kindOf(where).onSurfaces }) };
  });
}

async function known(scene: Scene): Promise<Known> {
  const results = await resultsOf(scene);
  return { scene, sums: Object.fromEntries(results.map((result) => [result.id, summaryOf(result)])) };
}

/** Another scene: random edits of the one that all random edits begin with. Null where little would be left of it. */
async function another(seed: number): Promise<Known | null> {
  const dice = new Dice(seed);
  const engine = new Engine();
  await teach(engine);
  let scene = fuzzScene();
  for (let nth = 0; nth < EDITS; nth++) {
    ({ scene } = edit(scene, dice, dice.below(1000), (id) => engine.result(id)?.placements));
    engine.evaluate(scene);
  }
  const standing = scene.dressings.map(({ id }) => {
    const { count, blanks } = engine.result(id)!.placements;
    return count - blanks;
  });
  const [least, most] = STANDING;
  const all = standing.reduce((sum, one) => sum + one, 0);
  if (all < least || all > most || standing.filter((one) => one > 2).length < DRESSINGS) return null;
  return known(parseScene(JSON.parse(JSON.stringify(scene))));
}

const all = readKnown<Known>(FILE);

/** What is asked for besides comparing. */
async function writtenAnew(): Promise<void> {
  if (TASK === "more") {
    const wanted = all.length + MORE;
    for (let seed = 1000 * all.length; all.length < wanted; seed++) {
      const one = await another(seed);
      if (one) all.push(one);
    }
  }
  if (TASK === "write") for (const one of all) one.sums = (await known(parseScene(one.scene))).sums;
  writeKnown(FILE, all);
}

if (TASK) test("written anew", writtenAnew);

// A test each, so that whoever has changed something sees how far it goes.
test.each(all.map((_, nth) => nth))("placements and findings of scene %i are what they were", async (nth) => {
  const { scene, sums } = all[nth];
  for (const result of await resultsOf(parseScene(scene)))
    expect([result.id, changed(result, sums[result.id])]).toEqual([result.id, []]);
});
