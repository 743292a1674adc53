/**
 * `npm run mutants [-- --sample 400 --seed 1 --minutes 60 --jobs 2]`: changes one small thing at a time in the code of
 * placing, the graph and the engine, runs the tests that reach it, and says how many of the changes they notice. Those that
 * they do not are listed, to be looked at one by one.
 *
 * Works in a copy of the project, into which all changes of the sample are written at once, each behind a switch (mutant
 * schemata: Untch, Offutt, Harrold, ISSTA 1993): so the tests are compiled once, one run says which test reaches which
 * change, and for each change only those tests run, those first that tell most in their time. The others are asked of many
 * changes at once that these have let pass, and of halves of them where they notice something (group testing: Dorfman,
 * Annals of Mathematical Statistics 14, 1943).
 */
import { spawn } from "node:child_process";
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import ts from "typescript";
import { drawFrom, streamOf } from "../src/core/math";

const { values } = parseArgs({
  options: {
    sample: { type: "string", default: "400" },
    seed: { type: "string", default: "1" },
    minutes: { type: "string", default: "60" },
    jobs: { type: "string", default: "2" },
    only: { type: "string", default: "" },
  },
});
const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
const FOLDERS = ["src/core/graph", "src/core/place", "src/engine"];
/** What version 5 did is frozen: nobody changes it any more. Workers and processes are reached by end-to-end tests alone. */
const LEFT_OUT = /(\.test|\.worker|\/testing|schema)\.ts$|\/(fuzz|known|placing|version-5)\//;
/** A change that makes something run for ever is noticed as well: after so long, and so many times what the tests take. */
const PATIENCE_MS = 30_000;
const PATIENCE_TIMES = 8;
/** For so long tests are asked of a change by itself, those first that tell most; the others of what these have let pass. */
const ALONE_MS = 20_000;
/** So many changes at once are put before a file of tests, the fewer the more of them are noticed. */
const AT_ONCE = [4, 32] as const;

interface Mutant {
  file: string;
  line: number;
  from: number;
  to: number;
  /** What stands there instead. */
  text: string;
  before: string;
  /** Whether it is a statement that is left out; else an expression that has another value. */
  statement: boolean;
}

const SWAPS: Readonly<Partial<Record<ts.SyntaxKind, string>>> = {
  [ts.SyntaxKind.LessThanToken]: ">=",
  [ts.SyntaxKind.LessThanEqualsToken]: "<",
  [ts.SyntaxKind.GreaterThanToken]: "<=",
  [ts.SyntaxKind.GreaterThanEqualsToken]: ">",
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: "!==",
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: "===",
  [ts.SyntaxKind.PlusToken]: "-",
  [ts.SyntaxKind.MinusToken]: "+",
  [ts.SyntaxKind.AsteriskToken]: "/",
  [ts.SyntaxKind.SlashToken]: "*",
  [ts.SyntaxKind.AmpersandAmpersandToken]: "||",
  [ts.SyntaxKind.BarBarToken]: "&&",
  [ts.SyntaxKind.QuestionQuestionToken]: "&&",
  [ts.SyntaxKind.PlusEqualsToken]: "-=",
  [ts.SyntaxKind.MinusEqualsToken]: "+=",
  [ts.SyntaxKind.TrueKeyword]: "false",
  [ts.SyntaxKind.FalseKeyword]: "true",
};

function* filesBelow(folder: string): Generator<string> {
  for (const entry of readdirSync(join(ROOT, folder), { withFileTypes: true })) {
    const path = `${folder}/${entry.name}`;
    if (entry.isDirectory()) yield* filesBelow(path);
    else if (path.endsWith(".ts") && !LEFT_OUT.test(path)) yield path;
  }
}

/** Whether a number is the name of a property, which cannot be an expression. */
const isName = ({ parent }: ts.Node) =>
  (ts.isPropertyAssignment(parent) || ts.isPropertyDeclaration(parent) || ts.isEnumMember(parent)) &&
  ts.isNumericLiteral(parent.name);

/** Every small change that there is to a file, but for those of types and imports. */
function mutantsOf(file: string): Mutant[] {
  const whole = readFileSync(join(ROOT, file), "utf8");
  const source = ts.createSourceFile(file, whole, ts.ScriptTarget.Latest, true);
  const found: Mutant[] = [];
  const add = (node: ts.Node, text: string, statement = false) => {
    const [from, to] = [node.getStart(source), node.getEnd()];
    const line = source.getLineAndCharacterOfPosition(from).line + 1;
    found.push({ file, line, from, to, text, before: whole.slice(from, to), statement });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const [left, operator, right] = [node.left, node.operatorToken, node.right];
      const swap = SWAPS[operator.kind];
      if (swap)
        add(
          node,
          `(${left.getText(source)}) ${swap} (${right.getText(source)})`.replace(/^\((.*)\) ([-+]=)/s, "$1 $2"),
        );
    } else if (ts.isNumericLiteral(node) && !isName(node)) add(node, node.text === "0" ? "1" : "0");
    else if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword)
      add(node, SWAPS[node.kind]!);
    else if (ts.isExpressionStatement(node) && !node.getText(source).startsWith("super(")) add(node, ";", true);
    else if (ts.isIfStatement(node)) add(node.expression, "false");
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The first so many in the seed's order, of which none lies within another. */
function sampled(all: readonly Mutant[]): Mutant[] {
  const stream = streamOf(Number(values.seed), 0);
  const order = all.map((mutant, i) => ({ mutant, draw: drawFrom(stream, i, 0) })).sort((a, b) => a.draw - b.draw);
  const taken: Mutant[] = [];
  for (const { mutant } of order) {
    if (taken.length === Number(values.sample)) break;
    const { file, from, to } = mutant;
    if (!taken.some((other) => other.file === file && other.from < to && from < other.to)) taken.push(mutant);
  }
  return taken;
}

/** Switched on by numbers in the environment; else the switch notes that it was reached, for the test that reached it. */
const SETUP = `
const chosen = new Set((process.env.MUTANTS ?? "").split(",").filter(Boolean).map(Number));
const [only] = chosen.size === 1 ? chosen : [-1];
let reached = new Set();
const several = (k) => chosen.has(k);
globalThis.__mutant = only >= 0 ? (k) => k === only : chosen.size > 0 ? several : (k) => (reached.add(k), false);
globalThis.__reached = () => { const all = [...reached]; reached = new Set(); return all; };
`;
const SETUP_TESTS = `
const { appendFileSync } = require("node:fs");
if (process.env.REACHED) {
  const note = (name) => {
    const reached = globalThis.__reached();
    if (reached.length) appendFileSync(process.env.REACHED, JSON.stringify({ path: expect.getState().testPath, name, reached }) + "\\n");
  };
  beforeAll(() => note(null));
  afterEach(() => note(expect.getState().currentTestName));
  afterAll(() => note(null));
}
`;

/** A copy of the project that shares its packages, with all changes in it. */
function copied(sample: readonly Mutant[]): string {
  const copy = mkdtempSync(join(tmpdir(), "mutants-"));
  for (const name of ["src", "jest", "package.json", "tsconfig.json"])
    cpSync(join(ROOT, name), join(copy, name), { recursive: true });
  for (const name of ["node_modules", "docs"]) symlinkSync(join(ROOT, name), join(copy, name));
  writeFileSync(join(copy, "setup-mutants.js"), SETUP);
  writeFileSync(join(copy, "setup-tests.js"), SETUP_TESTS);
  const config = readFileSync(join(ROOT, "jest.config.mjs"), "utf8")
    .replace("setupFilesAfterEnv: [", 'setupFilesAfterEnv: ["<rootDir>/setup-tests.js", ')
    .replace("setupFiles: [", 'setupFiles: ["<rootDir>/setup-mutants.js", ')
    .replace('testEnvironment: "node",', 'testEnvironment: "node",\n  watchman: false,');
  writeFileSync(join(copy, "jest.config.mjs"), config);
  sample
    .map((mutant, k) => ({ ...mutant, k }))
    .sort((a, b) => b.from - a.from)
    .forEach(({ file, from, to, text, before, statement, k }) => {
      const path = join(copy, file);
      const whole = readFileSync(path, "utf8");
      const both = statement ? `{ if (!__mutant(${k})) { ${before} } }` : `(__mutant(${k}) ? (${text}) : (${before}))`;
      writeFileSync(path, whole.slice(0, from) + both + whole.slice(to));
    });
  for (const file of new Set(sample.map(({ file }) => file))) {
    const path = join(copy, file);
    const header = "const __mutant: (k: number) => boolean = (globalThis as any).__mutant ?? (() => false);";
    writeFileSync(path, `${header} ${readFileSync(path, "utf8")}`);
  }
  return copy;
}

/** Runs tests in the copy; whether they pass. */
function passes(
  copy: string,
  args: readonly string[],
  env: Record<string, string>,
  patience: number,
): Promise<boolean> {
  return new Promise((resolve) => {
    const jest = join(ROOT, "node_modules", "jest", "bin", "jest.js");
    const options = { cwd: copy, stdio: "ignore", env: { ...process.env, SOURCES_STAY: "1", ...env } } as const;
    const child = spawn(process.execPath, [jest, "--silent", ...args], {
      ...options,
      timeout: patience,
      killSignal: "SIGKILL",
    });
    child.on("close", (code) => resolve(code === 0));
  });
}

/** Which tests reach a change: by file, names with how long each takes. A name of null is the file as it loads. */
type Reach = Map<string, Map<string | null, number>>;

/** All tests, once, unchanged: which of them reach which change. */
async function reaches(copy: string, sample: readonly Mutant[]): Promise<Reach[]> {
  const [told, notes] = [join(copy, "told.json"), join(copy, "reached.jsonl")];
  writeFileSync(notes, "");
  const files = [...new Set(sample.map(({ file }) => file))];
  const args = ["--json", `--outputFile=${told}`, "--findRelatedTests", ...files];
  if (!(await passes(copy, args, { REACHED: notes }, 3_600_000)))
    throw new Error(`Tests fail without any change: ${told}`);
  const took = new Map<string, number>();
  const results = JSON.parse(readFileSync(told, "utf8")) as {
    testResults: { name: string; assertionResults: { fullName: string; duration: number | null }[] }[];
  };
  for (const { name, assertionResults } of results.testResults) {
    for (const one of assertionResults) took.set(`${name} ${one.fullName}`, one.duration ?? 0);
  }
  const reach: Reach[] = sample.map(() => new Map());
  for (const line of readFileSync(notes, "utf8").split("\n").filter(Boolean)) {
    const { path, name, reached } = JSON.parse(line) as { path: string; name: string | null; reached: number[] };
    for (const k of reached) {
      const tests = reach[k].get(path) ?? new Map<string | null, number>();
      reach[k].set(path, tests.set(name, took.get(`${path} ${name}`) ?? 0));
    }
  }
  return reach;
}

const escaped = (name: string) => name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** What a file of tests has shown: how many changes it noticed, and how long it ran for them. */
const shown = new Map<string, { noticed: number; spent: number }>();
/** About how long it takes until the first test runs. */
const START_MS = 2_500;
/** And about how long for each file after the first. */
const FILE_MS = 800;

/** How many changes a file notices in a second; of what has not been tried as if it noticed the first. */
function telling(path: string, ms: number): number {
  const { noticed, spent } = shown.get(path) ?? { noticed: 1, spent: ms + START_MS };
  return noticed / spent;
}

interface Asked {
  path: string;
  /** Names of its tests; null among them: the file as it loads, which bears on all of its tests. */
  tests: ReadonlySet<string | null>;
  ms: number;
}

/** Whether files of tests notice that these changes are made. */
async function notice(copy: string, changes: readonly number[], files: readonly Asked[]): Promise<boolean> {
  const names = files.flatMap(({ tests }) => [...tests]);
  const some = names.filter((name) => name !== null);
  const pattern = some.length < names.length ? [] : ["-t", `^(${some.map(escaped).join("|")})$`];
  const args = ["--bail", "--runInBand", ...pattern, "--runTestsByPath", ...files.map(({ path }) => path)];
  const patience = PATIENCE_MS + PATIENCE_TIMES * files.reduce((sum, { ms }) => sum + ms, 0);
  const start = performance.now();
  const noticed = !(await passes(copy, args, { MUTANTS: changes.join(",") }, patience));
  if (files.length === 1 && changes.length === 1) {
    const before = shown.get(files[0].path) ?? { noticed: 0, spent: 0 };
    shown.set(files[0].path, {
      noticed: before.noticed + Number(noticed),
      spent: before.spent + performance.now() - start,
    });
  }
  return noticed;
}

/** The files of tests that reach a change, those first that tell most in their time. */
function asked(reach: Reach): Asked[] {
  const files = [...reach].map(([path, tests]) => ({
    path,
    tests: new Set(tests.keys()),
    ms: [...tests.values()].reduce((sum, ms) => sum + ms, 0),
  }));
  return files.sort((a, b) => telling(b.path, b.ms) - telling(a.path, a.ms));
}

/** What tells most of a change is asked of it alone; the files that were not asked, or null where it was noticed. */
async function unasked(copy: string, k: number, reach: Reach): Promise<Asked[] | null> {
  const [first, ...rest] = asked(reach);
  if (!first || (await notice(copy, [k], [first]))) return first ? null : [];
  let spent = 0;
  const alone = rest.filter(({ ms }) => (spent += ms + FILE_MS) < ALONE_MS);
  if (alone.length > 0 && (await notice(copy, [k], alone))) return null;
  return rest.filter((file) => !alone.includes(file));
}

/** Those of some changes that one file of tests notices: asked of all at once, then of halves. */
async function noticedAtOnce(copy: string, changes: readonly number[], file: Asked): Promise<number[]> {
  if (changes.length === 0 || performance.now() > end || !(await notice(copy, changes, [file]))) return [];
  if (changes.length === 1) return [...changes];
  const middle = changes.length >> 1;
  const first = await noticedAtOnce(copy, changes.slice(0, middle), file);
  return [...first, ...(await noticedAtOnce(copy, changes.slice(middle), file))];
}

const started = performance.now();
const minutes = () => `${((performance.now() - started) / 60_000).toFixed(1)} minutes`;

const all = FOLDERS.flatMap((folder) => [...filesBelow(folder)])
  .filter((file) => file.includes(values.only))
  .flatMap(mutantsOf);
const sample = sampled(all);
const copy = copied(sample);
const reach = await reaches(copy, sample);
const end = started + 60_000 * Number(values.minutes);
const jobs = Number(values.jobs);

/** Does work for each of a list, so many at a time, until time is up; how many it came to. */
async function forEach<T>(list: readonly T[], work: (item: T) => Promise<void>): Promise<number> {
  let next = 0;
  const worker = async () => {
    while (next < list.length && performance.now() < end) await work(list[next++]);
  };
  await Promise.all(Array.from({ length: jobs }, worker));
  return next;
}

function tell(word: string, k: number): void {
  const { file, line, text, before } = sample[k];
  const change = `${file}:${line}  ${before.replace(/\s+/g, " ").slice(0, 70)}  →  ${text.replace(/\s+/g, " ").slice(0, 70)}`;
  console.log(`${word}  ${change}${reach[k].size === 0 ? "  (reached by no test)" : ""}`);
}

/** Changes that no test has noticed so far, and by file of tests which of them it is still to be asked of. */
const left = new Set<number>();
const open = new Map<string, { k: number; file: Asked }[]>();
const numbers = sample.map((_, k) => k);
const tried = await forEach(numbers, async (k) => {
  const rest = await unasked(copy, k, reach[k]);
  if (!rest) return tell("killed  ", k);
  left.add(k);
  for (const file of rest) open.set(file.path, [...(open.get(file.path) ?? []), { k, file }]);
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
  const size = Math.max(1, Math.min(Math.ceil(still.length / jobs), Math.max(AT_ONCE[0], Math.min(AT_ONCE[1], good))));
  const groups = Array.from({ length: Math.ceil(still.length / size) }, (_, i) =>
    still.slice(i * size, (i + 1) * size),
  );
  const done = await forEach(groups, async (group) => {
    const tests = new Set(group.flatMap(({ file }) => [...file.tests]));
    const file = { ...group[0].file, tests, ms: Math.max(...group.map(({ file }) => file.ms)) };
    const changes = group.map(({ k }) => k);
    const noticed = await noticedAtOnce(copy, changes, file);
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
rmSync(copy, { recursive: true });
const killed = tried - left.size;
const asks = late > 0 ? ` Time was up with ${late} questions to files of tests still open.` : "";
console.log(
  `\n${killed} of ${tried} killed (${Math.round((100 * killed) / Math.max(1, tried))} %), of ${all.length} there are, ${minutes()}.${asks}`,
);
