/** Making new things in a scene: ids, names that are free, and dressings whose defaults suit their prop and line. */
import { dressingSchema, sizeOf, type Dressing } from "../place";
import { placingBounds } from "./prepare";
import { SCENE_VERSION, type Prop, type Scene } from "./schema";

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
  const sizes = boxes.map(sizeOf);
  const broadside = props.length > 0 && sizes.every(([breadth, , depth]) => breadth > 1.5 * depth);
  const length = Math.max(...sizes.map(([breadth, , depth]) => (broadside ? breadth : depth)), 0);
  const hangs = props.length > 0 && boxes.every(({ min, max }) => min[1] < 0 && max[1] <= 0.15 * (max[1] - min[1]));
  return dressingSchema.parse({
    id,
    name,
    where: { lines: [line] },
    what: { entries: props.map((prop) => ({ prop: prop.id })) },
    spacing: { distance: length > 0 ? Math.max(0.001, rounded(1.5 * length)) : 1 },
    stance: { meetsUp: hangs ? "top" : "bottom", turnUp: broadside ? Math.PI / 2 : 0 },
  });
}
