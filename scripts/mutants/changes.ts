/** *Mutants*: which small changes there are to the code, and a copy of the project that has some of them behind switches. */
import { cpSync, mkdtempSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import ts from "typescript";
import { drawFrom, streamOf } from "../../src/core/math";

const FOLDERS = ["src/core/graph", "src/core/place", "src/engine"];
/** What version 5 did is frozen: nobody changes it any more. Workers and processes are reached by end-to-end tests alone. */
const LEFT_OUT = /(\.test|\.worker|\/testing[^/]*|schema)\.ts$|\/(fuzz|known|placing|version-5)\//;

/** A small change to the code. */
export interface Mutant {
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

function* filesBelow(root: string, folder: string): Generator<string> {
  for (const entry of readdirSync(join(root, folder), { withFileTypes: true })) {
    const path = `${folder}/${entry.name}`;
    if (entry.isDirectory()) yield* filesBelow(root, path);
    else if (path.endsWith(".ts") && !LEFT_OUT.test(path)) yield path;
  }
}

/** Whether a number is the name of a property, which cannot be an expression. */
const isName = ({ parent }: ts.Node) =>
  (ts.isPropertyAssignment(parent) || ts.isPropertyDeclaration(parent) || ts.isEnumMember(parent)) &&
  ts.isNumericLiteral(parent.name);

/** Every small change that there is to a file, but for those of types and imports. */
function mutantsOf(root: string, file: string): Mutant[] {
  const whole = readFileSync(join(root, file), "utf8");
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

/** All changes there are to files whose path has a word in it. */
export const allMutants = (root: string, only: string): Mutant[] =>
  FOLDERS.flatMap((folder) => [...filesBelow(root, folder)])
    .filter((file) => file.includes(only))
    .flatMap((file) => mutantsOf(root, file));

/** The first so many in the seed's order, of which none lies within another. */
export function sampled(all: readonly Mutant[], size: number, seed: number): Mutant[] {
  const stream = streamOf(seed, 0);
  const order = all.map((mutant, i) => ({ mutant, draw: drawFrom(stream, i, 0) })).sort((a, b) => a.draw - b.draw);
  const taken: Mutant[] = [];
  for (const { mutant } of order) {
    if (taken.length === size) break;
    const { file, from, to } = mutant;
    if (!taken.some((other) => other.file === file && other.from < to && from < other.to)) taken.push(mutant);
  }
  return taken;
}

/** A copy of the project that shares its packages, with all changes in it, each behind a switch of its number. */
export function copyWith(root: string, sample: readonly Mutant[]): string {
  const copy = mkdtempSync(join(tmpdir(), "mutants-"));
  for (const name of ["src", "jest", "package.json", "tsconfig.json"])
    cpSync(join(root, name), join(copy, name), { recursive: true });
  for (const name of ["node_modules", "docs"]) symlinkSync(join(root, name), join(copy, name));
  sample
    .map((mutant, k) => ({ ...mutant, k }))
    .sort((a, b) => b.from - a.from)
    .forEach(({ file, from, to, text, before, statement, k }) => {
      const path = join(copy, file);
      const whole = readFileSync(path, "utf8");
      const isOn = `(__switches[${k}] !== 0 && __mutant(${k}))`;
      const both = statement ? `{ if (!${isOn}) { ${before} } }` : `(${isOn} ? (${text}) : (${before}))`;
      writeFileSync(path, whole.slice(0, from) + both + whole.slice(to));
    });
  // Most switches are off most of the time, which a number tells in inner loops; where nobody asks all of them are.
  const header = `const { __mutant, __switches = new Uint8Array(${sample.length}) } = globalThis as any;`;
  for (const file of new Set(sample.map(({ file }) => file))) {
    const path = join(copy, file);
    writeFileSync(path, `${header} ${readFileSync(path, "utf8")}`);
  }
  return copy;
}
