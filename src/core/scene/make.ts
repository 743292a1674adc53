/** Making new things in a scene: ids, names that are free, and dressings whose defaults suit their prop and line. */
import { sizeOf, type PropBounds } from "../mesh";
import { dressingSchema, kindOf, type Dressing } from "../place";
import { placingBounds } from "./prepare";
import { SCENE_VERSION, type Prop, type Scene } from "./schema";
import { timeSchema } from "./time";

/** A new short id. Ids are unique by chance: 80 random bits. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(10));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

export const emptyScene = (name: string): Scene => ({
  version: SCENE_VERSION,
  name,
  props: [],
  mixes: [],
  lines: [],
  surfaces: [],
  dressings: [],
  views: [],
  time: timeSchema.parse({}),
});

/** `wanted`, or with the first number behind it that makes it different from all that are taken. */
export function freeName(wanted: string, taken: Iterable<string>): string {
  const names = new Set(taken);
  if (!names.has(wanted)) return wanted;
  const stem = wanted.replace(/ \d+$/, "");
  for (let n = 2; ; n++) if (!names.has(`${stem} ${n}`)) return `${stem} ${n}`;
}

/** The number for a new line: one more than the highest there is. */
export const nextLineNumber = (scene: Pick<Scene, "lines">): number =>
  1 + scene.lines.reduce((highest, line) => Math.max(highest, line.number), 0);

/** A length as an artist would choose it: two significant figures. */
const rounded = (metres: number): number => Number(metres.toPrecision(2));

/**
 * A new dressing along one line, without any chance in it. The props follow each other half their own length apart; what
 * is broader than deep goes broadside, its breadth along the line; what reaches only downward from its origin hangs,
 * everything else stands.
 */
export function dressLine(id: string, name: string, line: string, props: readonly Prop[]): Dressing {
  const boxes = props.map(placingBounds);
  const broadside = props.length > 0 && boxes.map(sizeOf).every(([breadth, , depth]) => breadth > 1.5 * depth);
  const turnUp = broadside ? Math.PI / 2 : 0;
  const { distance } = suiting({ where: { kind: "along" }, stance: { turnUp } }, props);
  const hangs = hangsFrom(boxes);
  return dressingSchema.parse({
    id,
    name,
    where: { lines: [line] },
    what: { entries: props.map((prop) => ({ prop: prop.id })) },
    spacing: { distance },
    stance: { meetsUp: hangs ? "top" : "bottom", turnUp },
  });
}

/** Lengths that suit some props, metres, as they begin before anybody has chosen any. */
export interface Suiting {
  /** From one slot to the next. */
  distance: number;
  /** From one parallel row to the next. */
  rowDistance: number;
  /** The room that stays free between two that are kept clear, and to the walls of what they fill. */
  clearance: number;
  walls: number;
}

/** @param stance how far they are turned about up, radians: what is turned a quarter lies broadside */
export function suiting(
  { where, stance }: { where: Pick<Dressing["where"], "kind">; stance: Pick<Dressing["stance"], "turnUp"> },
  props: readonly Prop[],
): Suiting {
  const { ordered, fills } = kindOf(where);
  const sizes = props.map((prop) => sizeOf(placingBounds(prop)));
  const broadside = Math.abs(Math.sin(stance.turnUp)) > Math.SQRT1_2;
  const most = (size: (size: readonly [number, number, number]) => number) => Math.max(0, ...sizes.map(size));
  const length = most(([breadth, , depth]) => (broadside ? breadth : depth));
  const across = most(([breadth, , depth]) => (broadside ? depth : breadth));
  const all = most(([breadth, tall, depth]) => Math.max(breadth, depth, fills ? tall : 0));
  const or = (suits: number, without: number) => (suits > 0 ? Math.max(0.001, rounded(suits)) : without);
  return {
    distance: ordered ? or(1.5 * length, 1) : or(3 * all, 1),
    rowDistance: or(1.5 * across, 0.5),
    clearance: or(0.1 * all, 0),
    walls: or(0.5 * most((size) => Math.hypot(...size)), 0),
  };
}

/** Whether all reach only downward from their origin, and so hang. */
const hangsFrom = (boxes: readonly PropBounds[]): boolean =>
  boxes.length > 0 && boxes.every(({ min, max }) => min[1] < 0 && max[1] <= 0.15 * (max[1] - min[1]));

/** A new dressing over a surface comes to no more than about so many, however small its props. */
const COMFORTABLE = 2000;
/** Of a surface, this share of a square of the distance is what each takes up that is spread evenly; of a volume, of a cube. */
const TAKEN = 0.88;
const TAKEN_INSIDE = 1.37;

/**
 * A new dressing over a surface, within an area or inside a volume, without any chance but where things lie: evenly, three times as far apart
 * as the largest is broad, or farther where that would be very many.
 *
 * @param where ids of the surfaces and areas, or of volumes
 * @param extent how large it all is, about, square metres; of volumes, cubic metres
 */
export function dressOver(
  id: string,
  name: string,
  where: Partial<Record<"surfaces" | "areas" | "holes" | "volumes", readonly string[]>>,
  extent: number,
  props: readonly Prop[],
): Dressing {
  const inside = (where.volumes ?? []).length > 0;
  const kind = inside ? "inside" : "over";
  const own = suiting({ where: { kind }, stance: { turnUp: 0 } }, props);
  const least = inside ? Math.cbrt((extent / COMFORTABLE) * TAKEN_INSIDE) : Math.sqrt((TAKEN * extent) / COMFORTABLE);
  const distance = Math.max(own.distance, least, 0.001);
  return dressingSchema.parse({
    id,
    name,
    where: { kind, ...where },
    what: { order: props.length > 1 ? "mixed" : "sequence", entries: props.map((prop) => ({ prop: prop.id })) },
    spacing: { distance: rounded(distance) },
    stance: { meetsUp: hangsFrom(props.map(placingBounds)) ? "top" : "bottom" },
    gaps: inside ? { walls: own.walls } : {},
  });
}
