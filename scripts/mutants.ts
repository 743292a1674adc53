/**
 * `npm run mutants [-- --sample 400 --seed 1 --minutes 60 --jobs 2 --again survivors.log]`: changes one small thing at a time in the code of
 * placing, the graph and the engine, runs the tests that reach it, and says how many of the changes they notice. Those that
 * they do not are listed, to be looked at one by one.
 *
 * Works in a copy of the project, into which all changes of the sample are written at once, each behind a switch (mutant
 * schemata: Untch, Offutt, Harrold, ISSTA 1993): so the tests are compiled once, one run says which test reaches which
 * change, and for each change only those tests run, those first that tell most in their time, in processes that stay warm.
 * The others are asked of many changes at once that these have let pass, and of halves of them where they notice something
 * (group testing: Dorfman, Annals of Mathematical Statistics 14, 1943).
 */
import { cpSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { bundleTests } from "../jest/bundles.mjs";
import { Asker, type Asked, type Note } from "./mutants/asking";
import { allMutants, copyWith, sampled, type Mutant } from "./mutants/changes";

const { values } = parseArgs({
  options: {
    sample: { type: "string", default: "400" },
    seed: { type: "string", default: "1" },
    minutes: { type: "string", default: "60" },
    jobs: { type: "string", default: "2" },
    only: { type: "string", default: "" },
    again: { type: "string", default: "" },
  },
});
const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
/** For so long tests are asked of a change by itself, those first that tell most; the others of what these have let pass. */
const ALONE_MS = 12_000;
/** Tests that are less likely than that to notice a change are asked of several at once. */
const ALONE_CHANCE = 0.06;
/** So many changes at once are put before a file of tests, the fewer the more of them are noticed. */
const AT_ONCE = [4, 32] as const;

function nameOf({ file, line, text, before }: Mutant): string {
  const [from, to] = [before, text].map((code) => code.replace(/\s+/g, " ").slice(0, 70));
  return `${file}:${line}  ${from}  →  ${to}`;
}

const started = performance.now();
const end = started + 60_000 * Number(values.minutes);
const minutes = () => `${((performance.now() - started) / 60_000).toFixed(1)} minutes`;

const all = allMutants(ROOT, values.only);
const drawn = sampled(all, Number(values.sample), Number(values.seed));
/** Of a run whose words are kept, those that survived it alone: the sample and the seed have to be the same. */
const survived = values.again === "" ? null : readFileSync(values.again, "utf8");
const sample = drawn.filter((one) => survived?.includes(`SURVIVED  ${nameOf(one)}`) ?? true);
const copy = copyWith(ROOT, sample);
const scripts = join(copy, ".cache", "tests");
cpSync(join(ROOT, "scripts", "mutants"), join(copy, "scripts", "mutants"), { recursive: true });
await bundleTests(copy, scripts);

const askers = Array.from(
  { length: Number(values.jobs) },
  () => new Asker(copy, sample.length, join(ROOT, "node_modules")),
);

/** Does work for each of a list, one for each who asks at a time, until time is up; how many it came to. */
async function forEach<T>(list: readonly T[], work: (item: T, asker: Asker) => Promise<void>): Promise<number> {
  let next = 0;
  const worker = async (asker: Asker) => {
    while (next < list.length && performance.now() < end) await work(list[next++], asker);
  };
  await Promise.all(askers.map(worker));
  return next;
}

/** Which tests reach a change: by file, names with how long each takes. A name of null is the file as it loads. */
type Reach = Map<string, Map<string | null, number>>;

/** How long all tests of a file take, by its path. */
const whole = new Map<string, number>();
/** Files that take longer than this, milliseconds, are asked piece by piece: which piece each of their tests is in. */
const PIECE_MS = 2500;
const pieces = new Map<string, Map<string | null, number>>();
/** Changes that are reached as scripts load that files share: they need a process that begins with them. */
const loading = new Set<number>();

/** All tests, once, unchanged: which of them reach which change. */
async function reaches(): Promise<Reach[]> {
  const files = (readdirSync(scripts, { recursive: true }) as string[]).filter((file) => file.endsWith(".test.mjs"));
  const notes: Note[] = [];
  // In turns, so that what is long is not all in one process.
  const turns = askers.map((asker, a) => ({ asker, paths: files.filter((_, i) => i % askers.length === a) }));
  await Promise.all(
    turns.map(async ({ asker, paths }) => {
      const found = await asker.reach(paths.map((path) => join(scripts, path)));
      for (const note of found) notes.push(note);
    }),
  );
  const unfit = new Set<string>();
  for (const note of notes) {
    if (!("fails" in note)) continue;
    unfit.add(note.path);
    console.log(`not asked: ${relative(scripts, note.path)}, as it fails when run again: ${note.fails}`);
  }
  const reach: Reach[] = sample.map(() => new Map());
  const add = (k: number, path: string, name: string | null, ms: number) => {
    const tests = reach[k].get(path) ?? new Map<string | null, number>();
    reach[k].set(path, tests.set(name, ms));
  };
  const again = new Set<string>();
  for (const note of notes) {
    if (!("reached" in note) || unfit.has(note.path)) continue;
    const before = whole.get(note.path) ?? 0;
    whole.set(note.path, before + note.ms);
    const parts = pieces.get(note.path) ?? new Map<string | null, number>();
    pieces.set(note.path, parts.set(note.name, Math.floor(before / PIECE_MS)));
    for (const k of note.reached) add(k, note.path, note.name, note.ms);
    if (note.name === null) for (const k of note.reached) again.add(`${note.path} ${k}`);
  }
  for (const note of notes) {
    if (!("first" in note)) continue;
    for (const k of note.first) {
      if (again.has(`${note.path} ${k}`)) continue;
      loading.add(k);
    }
  }
  // Whatever a file reaches of a changed file it has loaded, and with it what is done there at once.
  const about = (k: number) => sample.flatMap((other, i) => (other.file === sample[k].file ? [i] : []));
  for (const k of loading) {
    const paths = new Set(about(k).flatMap((i) => [...reach[i].keys()]));
    const first = notes.flatMap((note) => ("first" in note && note.first.includes(k) ? [note.path] : []));
    for (const path of [...paths, ...first]) if (!unfit.has(path)) add(k, path, null, whole.get(path) ?? 0);
  }
  return reach;
}

/** What tests have shown: of how many changes they were asked, and how many they noticed. */
const shown = new Map<string, { asked: number; noticed: number }>();
/** About how long it takes until the first test runs. */
const START_MS = 300;

/** A file of tests, or a piece of a long one. */
interface Question extends Asked {
  key: string;
  /** How likely it is to notice the change that it is asked of. */
  chance: number;
}

/** How likely tests are to notice a change before they have shown anything: those beside it more than those that run all. */
function likely({ file }: Mutant, path: string): number {
  const test = relative(scripts, path);
  if (test.startsWith(file.slice(0, -"ts".length))) return 0.4;
  if (dirname(test) === dirname(file)) return 0.25;
  return /^src.(core.place|engine)/.test(test) ? 0.12 : 0.04;
}

/** So many more tries what one believes beforehand counts as. */
const BELIEVED = 2;

function chanceOf(k: number, key: string, path: string): number {
  const { asked, noticed } = shown.get(key) ?? { asked: 0, noticed: 0 };
  return (noticed + BELIEVED * likely(sample[k], path)) / (asked + BELIEVED);
}

const reach = await reaches();
console.log(`${sample.length} changes, ${reach.filter(({ size }) => size > 0).length} reached. ${minutes()}`);

/** Whether a file of tests notices that these changes are made. */
async function notices(asker: Asker, changes: readonly number[], file: Question): Promise<boolean> {
  const failed = await asker.ask(changes, [file], changes.some((k) => loading.has(k))); // prettier-ignore
  if (changes.length === 1) {
    const { asked, noticed } = shown.get(file.key) ?? { asked: 0, noticed: 0 };
    shown.set(file.key, { asked: asked + 1, noticed: noticed + Number(failed !== null) });
  }
  return failed !== null;
}

/** The tests that reach a change, those first that are likely to tell most in their time. */
function asked(k: number): Question[] {
  const questions = [...reach[k]].flatMap(([path, names]): Question[] => {
    if (names.has(null)) {
      return [{ key: path, path, tests: null, ms: whole.get(path) ?? 0, chance: chanceOf(k, path, path) }];
    }
    const byPiece = new Map<number, { names: string[]; ms: number }>();
    for (const [name, ms] of names as Map<string, number>) {
      const piece = pieces.get(path)?.get(name) ?? 0;
      const one = byPiece.get(piece) ?? { names: [], ms: 0 };
      byPiece.set(piece, { names: [...one.names, name], ms: one.ms + ms });
    }
    return [...byPiece].map(([piece, { names, ms }]) => {
      const key = `${path} ${piece}`;
      return { key, path, tests: names, ms, chance: chanceOf(k, key, path) };
    });
  });
  const telling = ({ chance, ms }: Question) => chance / (ms + START_MS);
  return questions.sort((a, b) => telling(b) - telling(a));
}

/** What tells most of a change is asked of it alone; the files that were not asked, or null where it was noticed. */
async function unasked(asker: Asker, k: number): Promise<Question[] | null> {
  const rest: Question[] = [];
  let spent = 0;
  for (const file of asked(k)) {
    if (spent > 0 && (file.chance < ALONE_CHANCE || spent + file.ms > ALONE_MS)) rest.push(file);
    else if (await notices(asker, [k], file)) return null;
    else spent += file.ms + START_MS;
  }
  return rest;
}

/** Those of some changes that one file of tests notices: asked of all at once, then of halves. */
async function noticedAtOnce(asker: Asker, changes: readonly number[], file: Question): Promise<number[]> {
  if (changes.length === 0 || performance.now() > end || !(await notices(asker, changes, file))) return [];
  if (changes.length === 1) return [...changes];
  const middle = changes.length >> 1;
  const first = await noticedAtOnce(asker, changes.slice(0, middle), file);
  return [...first, ...(await noticedAtOnce(asker, changes.slice(middle), file))];
}

function tell(word: string, k: number): void {
  console.log(`${word}  ${nameOf(sample[k])}${reach[k].size === 0 ? "  (reached by no test)" : ""}`);
}

/** Changes that no test has noticed so far, and by file of tests which of them it is still to be asked of. */
const left = new Set<number>();
const open = new Map<string, { k: number; file: Question }[]>();
const numbers = sample.map((_, k) => k);
const tried = await forEach(numbers, async (k, asker) => {
  const rest = await unasked(asker, k);
  if (!rest) return tell("killed  ", k);
  left.add(k);
  for (const file of rest) open.set(file.key, [...(open.get(file.key) ?? []), { k, file }]);
});
console.log(`${left.size} of ${tried} are let pass by what tells most of them. ${minutes()}`);

const count = { asked: AT_ONCE[0] * 4, noticed: 0 };
let late = 0;
/** How many changes a file is asked of in a second. */
const yields = (reached: readonly { file: Asked }[]) =>
  reached.length / (START_MS + Math.max(...reached.map(({ file }) => file.ms)));
for (const [, reached] of [...open].sort(([, a], [, b]) => yields(b) - yields(a))) {
  const still = reached.filter(({ k }) => left.has(k));
  const good = Math.round(count.asked / (count.noticed + 1));
  const size = Math.max(
    1,
    Math.min(Math.ceil(still.length / askers.length), Math.max(AT_ONCE[0], Math.min(AT_ONCE[1], good))),
  );
  const groups = Array.from({ length: Math.ceil(still.length / size) }, (_, i) =>
    still.slice(i * size, (i + 1) * size),
  );
  const done = await forEach(groups, async (group, asker) => {
    const names = group.some(({ file }) => file.tests === null) ? null : group.flatMap(({ file }) => file.tests ?? []);
    const tests = names && [...new Set(names)];
    const file = { ...group[0].file, tests, ms: Math.max(...group.map(({ file }) => file.ms)) };
    const changes = group.map(({ k }) => k);
    const noticed = await noticedAtOnce(asker, changes, file);
    count.asked += changes.length;
    count.noticed += noticed.length;
    for (const k of noticed) {
      left.delete(k);
      tell("killed  ", k);
    }
  });
  late += groups.length - done;
}
for (const k of [...left].sort((a, b) => a - b)) tell("SURVIVED", k);
for (const asker of askers) asker.close();
rmSync(copy, { recursive: true });
const killed = tried - left.size;
const asks = late > 0 ? ` Time was up with ${late} questions to files of tests still open.` : "";
console.log(
  `\n${killed} of ${tried} killed (${Math.round((100 * killed) / Math.max(1, tried))} %), of ${all.length} there are, ${minutes()}.${asks}`,
);
