/**
 * `npm run mutants [-- --sample 400 --seed 1 --minutes 60]`: changes one small thing at a time in the code of placing, the graph
 * and the engine, runs the tests that have to do with it, and says how many of the changes they notice. Those that they do
 * not are listed, to be looked at one by one. Works in a copy of the project, so that nothing here is changed.
 */
import { spawnSync } from "node:child_process";
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
    only: { type: "string", default: "" },
  },
});
const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
const FOLDERS = ["src/core/graph", "src/core/place", "src/engine"];
const LEFT_OUT = /(\.test|\.worker|\/testing|schema)\.ts$|\/fuzz\//;
/** Tests that take long are asked last, and only of what all others have let pass. */
const SLOW = "(fuzz|saved|demo|over|inside|staying)";
/** A change that makes something run for ever is noticed as well. */
const PATIENCE_MS = 240_000;

interface Mutant {
  file: string;
  line: number;
  from: number;
  to: number;
  text: string;
  before: string;
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

/** Every small change that there is to a file, but for those of types and imports. */
function mutantsOf(file: string): Mutant[] {
  const text = readFileSync(join(ROOT, file), "utf8");
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Mutant[] = [];
  const add = (node: ts.Node, now: string) => {
    const [from, to] = [node.getStart(source), node.getEnd()];
    const line = source.getLineAndCharacterOfPosition(from).line + 1;
    found.push({ file, line, from, to, text: now, before: text.slice(from, to) });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const swap = SWAPS[node.operatorToken.kind];
      if (swap) add(node.operatorToken, swap);
    } else if (ts.isNumericLiteral(node)) add(node, node.text === "0" ? "1" : "0");
    else if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword)
      add(node, SWAPS[node.kind]!);
    else if (ts.isExpressionStatement(node)) add(node, ";");
    else if (ts.isIfStatement(node)) add(node.expression, "false");
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** A copy of the project that shares its packages. */
function copied(): string {
  const copy = mkdtempSync(join(tmpdir(), "mutants-"));
  for (const name of ["src", "jest.config.mjs", "jest.setup.ts", "package.json", "tsconfig.json"])
    cpSync(join(ROOT, name), join(copy, name), { recursive: true });
  symlinkSync(join(ROOT, "node_modules"), join(copy, "node_modules"));
  return copy;
}

/** Whether tests fail. */
function fails(copy: string, args: readonly string[]): boolean {
  const jest = join(ROOT, "node_modules", ".bin", "jest");
  const { status } = spawnSync(jest, ["--bail", "--silent", ...args], {
    cwd: copy,
    stdio: "ignore",
    timeout: PATIENCE_MS,
  });
  return status !== 0;
}

/** Whether tests notice that a file is another: those beside it first, which are quickest to; then all that have to do with it. */
function notices(copy: string, file: string): boolean {
  const folder = dirname(file);
  const beside = [folder, dirname(folder)].flatMap((one) =>
    readdirSync(join(ROOT, one))
      .filter((name) => name.endsWith(".test.ts") && !new RegExp(SLOW).test(name))
      .map((name) => `${one}/${name}`),
  );
  const related = ["--findRelatedTests", file];
  return (
    (beside.length > 0 && fails(copy, ["--runInBand", "--runTestsByPath", ...beside])) ||
    fails(copy, [...related, "--testPathIgnorePatterns", SLOW]) ||
    fails(copy, related)
  );
}

const all = FOLDERS.flatMap((folder) => [...filesBelow(folder)])
  .filter((file) => file.includes(values.only))
  .flatMap(mutantsOf);
const stream = streamOf(Number(values.seed), 0);
const sample = all
  .map((mutant, i) => ({ mutant, draw: drawFrom(stream, i, 0) }))
  .sort((a, b) => a.draw - b.draw)
  .slice(0, Number(values.sample))
  .map(({ mutant }) => mutant);
const copy = copied();
if (notices(copy, sample[0].file)) throw new Error("The tests fail without any change.");
const end = performance.now() + 60_000 * Number(values.minutes);
const survived: string[] = [];
let tried = 0;
for (const { file, line, from, to, text, before } of sample) {
  if (performance.now() > end) break;
  const path = join(copy, file);
  const whole = readFileSync(path, "utf8");
  writeFileSync(path, whole.slice(0, from) + text + whole.slice(to));
  const noticed = notices(copy, file);
  writeFileSync(path, whole);
  tried++;
  const told = `${file}:${line}  ${before.replace(/\s+/g, " ").slice(0, 60)}  →  ${text}`;
  if (!noticed) survived.push(told);
  console.log(`${noticed ? "killed  " : "SURVIVED"}  ${told}`);
}
rmSync(copy, { recursive: true });
const killed = tried - survived.length;
console.log(
  `\n${killed} of ${tried} killed (${Math.round((100 * killed) / Math.max(1, tried))} %), of ${all.length} there are.`,
);
