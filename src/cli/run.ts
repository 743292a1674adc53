/** What the command line does: the engine without a browser, for pipelines. `--help` says what there is. */
import { InputError } from "@/core/schema";
import { readFileSync, statSync, writeFileSync, mkdirSync } from "node:fs";
import { basename, dirname, extname, join } from "node:path";
import { parseArgs } from "node:util";
import { assetPath, checkedAssets, parseSceneText, readProject, type FormatName, type Project } from "@/core/files";
import { hexOf } from "@/core/place";
import { type Scene } from "@/core/scene";
import { demoScene } from "@/demo";
import { lookThrough } from "@/engine/look-through";
import { evaluateScene, writeAnimation, writeFrames, writePlacements } from "@/engine/jobs";
import { meshesCompared, meshesWanted } from "@/engine/wanted";
import { schemaText } from "./schema";

const HELP = `clothesline: places a scene's props, from the command line

  place  SCENE [--dressing NAME] [--frame N | --frames A..B] [--plain] [--out FILE]
                      the placements; FILE ends in .csv, .json or .glb (without --out: CSV on standard output)
  check  SCENE        what the checks find, as JSON; exit code 1 if anything
  demo   --out DIR    the demo scene as files: scene.json and assets/
  schema              the JSON Schema of scene.json

SCENE is a project file (.zip), a folder laid out the same, or its scene.json.
  --dressing NAME     only this dressing
  --frame N           this frame, counted from 0 (without it: the first)
  --frames A..B       these frames: CSV and JSON say of each placement or list which it belongs to;
                      a GLB is animated; a FILE with # in its name, such as out.####.csv, is written once a frame,
                      the number in their place; check tells the worst moment of each finding
  --every N           of an animated GLB's frames every Nth
  --surfaces, --lines in a GLB besides what dresses them
  --plain             GLB with a node for each placement instead of instances
  --nested            with --plain: assemblies as nodes with what is in them below
  --help              this text

Exit codes: 0 done, 1 findings (check), 2 something could not be read, written or understood.
`;

/** What was typed cannot be understood. */
class UsageError extends Error {}

/** Where a command writes: what it was asked for, and what went wrong. */
export interface Streams {
  out: (written: string | Uint8Array) => void;
  error: (sentence: string) => void;
}

/** Does what was typed; gives the exit code. What cannot be done is told in one line. */
export async function run(argv: string[], { out, error }: Streams): Promise<number> {
  try {
    return await done(argv, out);
  } catch (reason) {
    error(`clothesline: ${sentence(reason).replaceAll("\n", " ")}\n`);
    return 2;
  }
}

async function done(argv: string[], write: Streams["out"]): Promise<number> {
  const { values, positionals } = parsed(argv);
  const [command, scene, ...rest] = positionals;
  if (values.help || command === undefined) {
    write(HELP);
    return values.help ? 0 : 2;
  }
  if (rest.length > 0) throw new UsageError(`“${rest[0]}” is one word too many`);
  switch (command) {
    case "place":
      return place(needed(scene, "place needs a SCENE"), values, write);
    case "check":
      return check(needed(scene, "check needs a SCENE"), values, write);
    case "demo":
      return demo(needed(values.out, "demo needs --out DIR"));
    case "schema":
      write(schemaText());
      return 0;
    default:
      throw new UsageError(`there is no command “${command}”`);
  }
}

interface Options {
  dressing?: string;
  frame?: string;
  frames?: string;
  out?: string;
  every?: string;
  surfaces?: boolean;
  lines?: boolean;
  plain?: boolean;
  compressed?: boolean;
  nested?: boolean;
  help?: boolean;
}

function parsed(argv: string[]): { values: Options; positionals: string[] } {
  try {
    return parseArgs({
      args: argv,
      allowPositionals: true,
      options: {
        dressing: { type: "string" },
        frame: { type: "string" },
        frames: { type: "string" },
        out: { type: "string" },
        every: { type: "string" },
        surfaces: { type: "boolean" },
        lines: { type: "boolean" },
        plain: { type: "boolean" },
        compressed: { type: "boolean" },
        nested: { type: "boolean" },
        help: { type: "boolean", short: "h" },
      },
    });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
}

function needed(value: string | undefined, complaint: string): string {
  if (value === undefined) throw new UsageError(complaint);
  return value;
}

async function place(path: string, options: Options, write: Streams["out"]): Promise<number> {
  const { out, plain, dressing, compressed, surfaces, lines, nested } = options;
  const format = formatOf(out, plain);
  const chosen = { dressing, compressed, surfaces, lines, nested };
  const every = options.every === undefined ? 1 : frameOf(options.every);
  if (options.frame !== undefined && options.frames !== undefined)
    throw new UsageError("--frame and --frames do not go together");
  const frames = options.frames === undefined ? null : framesOf(options.frames);
  const frame = options.frame === undefined ? undefined : frameOf(options.frame);
  const { scene, assets } = load(path, (scene) => format.startsWith("glb") || meshesWanted(scene).size > 0);
  if (out) mkdirSync(dirname(out), { recursive: true });
  if (frames && format.startsWith("glb") && !out?.includes("#")) {
    const bytes = await writeAnimation(scene, assets, format, frames, { ...chosen, every });
    if (out === undefined) write(bytes);
    else writeFileSync(out, bytes);
    return 0;
  }
  if (frames && out?.includes("#")) {
    for (let n = frames[0]; n <= frames[1]; n++) {
      const bytes = await writePlacements(scene, assets, format, { ...chosen, frame: n });
      writeFileSync(numbered(out, n), bytes);
    }
    return 0;
  }
  if (!frames) {
    const bytes = await writePlacements(scene, assets, format, { ...chosen, frame });
    if (out === undefined) write(bytes);
    else writeFileSync(out, bytes);
    return 0;
  }
  let begun = false;
  for await (const piece of writeFrames(scene, assets, format, frames, chosen)) {
    if (out === undefined) write(piece);
    else writeFileSync(out, piece, { flag: begun ? "a" : "w" });
    begun = true;
  }
  return 0;
}

/** A frame's own file: its number stands for the signs `#`, with as many digits at least. */
const numbered = (out: string, frame: number): string =>
  out.replace(/#+/, (signs) => String(frame).padStart(signs.length, "0"));

function frameOf(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new UsageError(`“${text}” is not a frame's number`);
  return Number(text);
}

function framesOf(text: string): [first: number, last: number] {
  const parts = text.split("..");
  if (parts.length !== 2) throw new UsageError(`“${text}” names no frames: write them as 0..240`);
  return [frameOf(parts[0]), frameOf(parts[1])];
}

function formatOf(out: string | undefined, plain = false): FormatName {
  const ending = out === undefined ? ".csv" : extname(out).toLowerCase();
  if (ending === ".glb") return plain ? "glb-plain" : "glb";
  if (ending === ".csv") return "csv";
  if (ending === ".json") return "json";
  throw new UsageError(`“${out}” ends in none of .csv, .json and .glb`);
}

/** Keys as all files write them. */
const inHex = (_: string, value: unknown): unknown => (typeof value === "bigint" ? hexOf(value) : value);

async function check(path: string, options: Options, write: Streams["out"]): Promise<number> {
  const { scene, assets } = load(path, (scene) => meshesWanted(scene).size + meshesCompared(scene).size > 0);
  if (options.frames !== undefined) {
    const worst = (await lookThrough(scene, assets, framesOf(options.frames)))!;
    const told = worst.map(({ finding, ...when }) => ({ ...finding, ...when }));
    write(JSON.stringify(told, inHex, 2) + "\n");
    return told.length > 0 ? 1 : 0;
  }
  const frame = options.frame === undefined ? undefined : frameOf(options.frame);
  const { findings } = await evaluateScene(scene, assets, { frame, poking: true });
  write(JSON.stringify(findings, inHex, 2) + "\n");
  return findings.length > 0 ? 1 : 0;
}

async function demo(out: string): Promise<number> {
  const { scene, assets } = await demoScene();
  mkdirSync(join(out, "assets"), { recursive: true });
  writeFileSync(join(out, "scene.json"), JSON.stringify(scene, null, 2) + "\n");
  for (const [hash, bytes] of assets) writeFileSync(join(out, assetPath(hash, bytes)), bytes);
  return 0;
}

/** The project at `path`; the assets of one laid out as a folder are read only where they are needed. */
function load(path: string, withAssets: (scene: Scene) => boolean): Project {
  const folder = statSync(path).isDirectory();
  const name = basename(path);
  if (!folder && extname(path).toLowerCase() !== ".json") return readProject(new Uint8Array(readFileSync(path)), name);
  const root = folder ? path : dirname(path);
  const scene = parseSceneText(readFileSync(folder ? join(path, "scene.json") : path, "utf8"), name);
  if (!withAssets(scene)) return { scene, assets: new Map() };
  return { scene, assets: checkedAssets(scene, name, (file) => readIfThere(join(root, file))) };
}

function readIfThere(path: string): Uint8Array | undefined {
  try {
    return new Uint8Array(readFileSync(path));
  } catch {
    return undefined;
  }
}

/** What went wrong in one line, whoever noticed it. */
function sentence(error: unknown): string {
  if (error instanceof UsageError) return `${error.message} (--help says what there is)`;
  if (error instanceof InputError) return error.message;
  const { code, path, message } = error as NodeJS.ErrnoException;
  if (code === "ENOENT") return `there is no file “${path}”`;
  return message ?? String(error);
}
