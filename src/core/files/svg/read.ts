/** SVG files as outlines: all that is drawn of lines and areas, in one plane, with every arc still an arc. */
import { XMLParser, XMLValidator } from "fast-xml-parser";
import svgpath from "svgpath";
import { InputError } from "../../schema";
import { pointsAlong } from "./arcs";
import type { Drawing, Outline, Point, Segment } from "./drawing";
import { pathOf } from "./shapes";

/** Lengths as CSS has them, metres. */
const UNITS: Readonly<Record<string, number>> = {
  "": 0.0254 / 96,
  px: 0.0254 / 96,
  pt: 0.0254 / 72,
  pc: 0.0254 / 6,
  in: 0.0254,
  mm: 0.001,
  cm: 0.01,
  m: 1,
};
const MOST_BYTES = 32 * 2 ** 20;
const MOST_DEEP = 64;
const MOST_NAME = 190;
/** More outlines, or pieces of them, are not read. */
const MOST_OUTLINES = 5_000;
const MOST_SEGMENTS = 200_000;

const UNREAD: Readonly<Record<string, string>> = {
  text: "text",
  image: "pictures",
  use: "copies (use)",
  foreignObject: "foreign objects",
  mask: "masks",
  clipPath: "clippings",
  pattern: "patterns",
  marker: "markers",
  filter: "filters",
};
/** What is drawn only where something else names it, or never. */
const ASIDE = new Set([
  "defs",
  "symbol",
  "title",
  "desc",
  "metadata",
  "style",
  "script",
  "linearGradient",
  "radialGradient",
]);

interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
}

/** @throws InputError when it is no SVG, or holds too much */
export function readSvg(bytes: Uint8Array, file: string): Drawing {
  if (bytes.length > MOST_BYTES) throw new InputError(`“${file}” is larger than 32 MB.`);
  const root = rootOf(new TextDecoder().decode(bytes), file);
  const box = viewBoxOf(root);
  const work = new Reading(file);
  work.walk(root, [], "", 0);
  const drawn = box ?? work.bounds();
  const [width, height] = [sizeOf(root.attributes.width), sizeOf(root.attributes.height)];
  // As many metres a unit as both sides have room for.
  const units = [width && width / drawn.width, height && height / drawn.height].flatMap((one) => one ?? []);
  const unit = box && units.length > 0 ? Math.min(...units) : UNITS[""];
  return {
    outlines: work.outlines,
    width: unit * drawn.width,
    height: unit * drawn.height,
    unit,
    middle: [drawn.x + drawn.width / 2, drawn.y + drawn.height / 2],
    unread: [...work.unread],
  };
}

type Node = Record<string, unknown> & { ":@"?: Record<string, string> };

function rootOf(text: string, file: string): Element {
  if (XMLValidator.validate(text) !== true)
    throw new InputError(`“${file}” is no SVG that can be read: its XML is damaged.`);
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: "",
    parseAttributeValue: false,
    parseTagValue: false,
    processEntities: false,
    removeNSPrefix: true,
  });
  const asElement = (node: Node): Element[] => {
    const name = Object.keys(node).find((key) => key !== ":@");
    if (name === undefined || name.startsWith("#") || name.startsWith("?")) return [];
    return [{ name, attributes: node[":@"] ?? {}, children: (node[name] as Node[]).flatMap(asElement) }];
  };
  const root = (parser.parse(text) as Node[]).flatMap(asElement).find(({ name }) => name === "svg");
  if (!root) throw new InputError(`“${file}” is no SVG: it has no svg element.`);
  return root;
}

function sizeOf(text: string | undefined): number | null {
  const found = /^\s*([+-]?[\d.]+(?:e[+-]?\d+)?)\s*(px|pt|pc|in|mm|cm|m)?\s*$/i.exec(text ?? "");
  const size = found ? Number(found[1]) * UNITS[(found[2] ?? "").toLowerCase()] : NaN;
  return size > 0 ? size : null;
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

function viewBoxOf({ attributes }: Element): Box | null {
  const numbers = (attributes.viewBox ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (numbers.length === 4 && numbers.every(Number.isFinite) && numbers[2] > 0 && numbers[3] > 0)
    return { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] };
  const [width, height] = [sizeOf(attributes.width), sizeOf(attributes.height)];
  return width && height ? { x: 0, y: 0, width: width / UNITS[""], height: height / UNITS[""] } : null;
}

class Reading {
  readonly outlines: Outline[] = [];
  readonly unread = new Set<string>();
  #segments = 0;
  readonly #parts = new Set<string>();

  constructor(readonly file: string) {}

  /** @param place where the element is among those around it, for those without a name */
  walk(element: Element, around: readonly string[], place: string, deep: number): void {
    if (deep > MOST_DEEP) throw new InputError(`“${this.file}” is nested too deeply.`);
    const { name, attributes, children } = element;
    if (/display\s*:\s*none/.test(attributes.style ?? "") || attributes.display === "none") return;
    const transforms = attributes.transform ? [...around, attributes.transform] : around;
    const path = pathOf(name, attributes);
    if (path !== null) this.#draw(path, transforms, attributes, attributes.id ?? place);
    else if (UNREAD[name]) this.unread.add(UNREAD[name]);
    if (path !== null || UNREAD[name] || ASIDE.has(name)) return;
    const inherited = pickInherited(attributes);
    children.forEach((child, k) =>
      this.walk(
        { ...child, attributes: { ...inherited, ...child.attributes } },
        transforms,
        `${place}${place && "."}${k + 1}`,
        deep + 1,
      ),
    );
  }

  #draw(d: string, transforms: readonly string[], attributes: Element["attributes"], part: string): void {
    const path = svgpath(d);
    // What is said further in is done first.
    for (const transform of [...transforms].reverse()) path.transform(transform);
    const found: Outline[] = [];
    let [own, at]: [Outline | null, Point] = [null, [0, 0]];
    path
      .abs()
      .unshort()
      .iterate(([command, ...n], _, x, y) => {
        at = [x, y];
        if (++this.#segments > MOST_SEGMENTS)
          throw new InputError(`“${this.file}” has more than ${MOST_SEGMENTS} pieces of lines.`);
        if (command === "M") own = null;
        const end = n.slice(-2) as unknown as Point;
        if (command === "M") at = end;
        if (command === "Z" && own) own.closed = true;
        const segment = segmentOf(command as string, n as number[], at);
        if (command === "M" || command === "Z") {
          if (command === "Z") own = null;
          return;
        }
        if (!own) {
          own = { part: "", start: at, segments: [], closed: false, hole: false };
          found.push(own);
        }
        if (segment) own.segments.push(segment);
      });
    for (const one of found) tidy(one);
    const whole = found.filter((one) => one.segments.length > 0 && isFinitePoint(one));
    const rule = /fill-rule\s*:\s*evenodd/.test(attributes.style ?? "") ? "evenodd" : attributes["fill-rule"];
    whole.forEach((one, k) => {
      if (this.outlines.length >= MOST_OUTLINES)
        throw new InputError(`“${this.file}” has more than ${MOST_OUTLINES} outlines.`);
      one.part = this.#freePart(whole.length > 1 ? `${part}/${k + 1}` : part);
      one.hole = one.closed && isHole(one, whole, rule === "evenodd");
      this.outlines.push(one);
    });
  }

  /** Names should come but once in a file, and do not always. */
  #freePart(wanted: string): string {
    let part = wanted.slice(0, MOST_NAME);
    for (let k = 2; this.#parts.has(part); k++) part = `${wanted.slice(0, MOST_NAME)}~${k}`;
    this.#parts.add(part);
    return part;
  }

  /** The box round all points. */
  bounds(): Box {
    const points = this.outlines.flatMap(pointsOf);
    if (points.length === 0) return { x: 0, y: 0, width: 1, height: 1 };
    const low = [0, 1].map((k) => points.reduce((least, p) => Math.min(least, p[k]), Infinity));
    const high = [0, 1].map((k) => points.reduce((most, p) => Math.max(most, p[k]), -Infinity));
    return { x: low[0], y: low[1], width: high[0] - low[0] || 1, height: high[1] - low[1] || 1 };
  }
}

/** What elements take over from those around them, as far as it matters here. */
const pickInherited = (attributes: Element["attributes"]): Record<string, string> =>
  attributes["fill-rule"] ? { "fill-rule": attributes["fill-rule"] } : {};

function segmentOf(command: string, n: number[], [x, y]: Point): Segment | null {
  switch (command) {
    case "L":
      return { kind: "line", to: [n[0], n[1]] };
    case "H":
      return { kind: "line", to: [n[0], y] };
    case "V":
      return { kind: "line", to: [x, n[0]] };
    case "C":
      return { kind: "cubic", first: [n[0], n[1]], second: [n[2], n[3]], to: [n[4], n[5]] };
    case "Q": {
      const towards = (from: Point): Point => [
        from[0] + (2 / 3) * (n[0] - from[0]),
        from[1] + (2 / 3) * (n[1] - from[1]),
      ];
      return { kind: "cubic", first: towards([x, y]), second: towards([n[2], n[3]]), to: [n[2], n[3]] };
    }
    case "A":
      // Without radii it is straight; from where it is to there it is nothing.
      if (n[0] === 0 || n[1] === 0) return { kind: "line", to: [n[5], n[6]] };
      return {
        kind: "arc",
        radii: [Math.abs(n[0]), Math.abs(n[1])],
        turn: n[2],
        large: n[3] === 1,
        sweep: n[4] === 1,
        to: [n[5], n[6]],
      };
    default:
      return null;
  }
}

/** Points along an outline, close enough to tell what lies within it. */
function pointsOf({ start, segments }: Outline): Point[] {
  let at = start;
  return segments.reduce(
    (points, segment) => {
      points.push(...pointsAlong(at, segment));
      at = segment.to;
      return points;
    },
    [start],
  );
}

const isFinitePoint = (one: Outline): boolean =>
  pointsOf(one).every(([x, y]) => Number.isFinite(x) && Number.isFinite(y));
const same = (a: Point, b: Point): boolean => a[0] === b[0] && a[1] === b[1];

/** Leaves out pieces that lead nowhere, and a last one that only leads back to the start of what is closed. */
function tidy(one: Outline): void {
  let at = one.start;
  one.segments = one.segments.filter((segment) => {
    const isNothing = same(at, segment.to) && segment.kind !== "cubic";
    at = segment.to;
    return !isNothing;
  });
  const last = one.segments.at(-1);
  if (one.closed && last?.kind === "line" && same(last.to, one.start) && one.segments.length > 2) one.segments.pop();
}

/** Whether what lies within an outline is not filled, by how often, or which ways round, the others go about it. */
function isHole(one: Outline, all: readonly Outline[], evenOdd: boolean): boolean {
  const [x, y] = pointWithin(one);
  const turns = all.filter(({ closed }) => closed).map((other) => windingAbout(pointsOf(other), x, y));
  const total = evenOdd ? turns.filter((turn) => turn !== 0).length % 2 : turns.reduce((sum, turn) => sum + turn, 0);
  return total === 0;
}

/** A point just within an outline, beside the middle of its longest side. */
function pointWithin(one: Outline): Point {
  const points = pointsOf(one);
  let [best, at]: [number, Point] = [-1, points[0]];
  const twice = points.reduce((sum, [x, y], i) => {
    const [u, v] = points[(i + 1) % points.length];
    return sum + x * v - y * u;
  }, 0);
  points.forEach(([x, y], i) => {
    const [u, v] = points[(i + 1) % points.length];
    const far = Math.hypot(u - x, v - y);
    if (far <= best) return;
    best = far;
    const inwards = 1e-4 * (twice > 0 ? 1 : -1);
    at = [(x + u) / 2 - inwards * (v - y), (y + v) / 2 + inwards * (u - x)];
  });
  return at;
}

/** How often a closed way goes round a point. */
function windingAbout(points: readonly Point[], x: number, y: number): number {
  let turns = 0;
  points.forEach(([ax, ay], i) => {
    const [bx, by] = points[(i + 1) % points.length];
    const side = (bx - ax) * (y - ay) - (x - ax) * (by - ay);
    if (ay <= y && by > y && side > 0) turns++;
    if (ay > y && by <= y && side < 0) turns--;
  });
  return turns;
}
