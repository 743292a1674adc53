/** Draws the sheet: the ground from above, how full it is, outlines and lines, every placement in its true footprint. */
import { FLAG, type Placements, type Key, indicesOf } from "@/core/place";
import type { Vec3 } from "@/core/math";
import type { TopView } from "../assets";
import { inks, markLabel, niceStep } from "../kit";
import { Dots, packed } from "./dots";
import { isShown, middleOf, type SheetView } from "./model";
import type { Charts } from "./charts";

const MONO = '10px "Spline Sans Mono Variable", monospace';

/** Rulers at the top and on the left are so broad, pixels. */
export const RULER = 22;
/** Half as long as a label on the ruler is at most. */
const LABEL = 12;
/** Footprints smaller than so many pixels are dots of one or two; from the next on they have an edge; the largest show their front. */
const TINY = 0.75;
const SMALL = 2.5;
const EDGED = 5;
const LARGE = 9;

export interface SheetScene {
  placements: Placements;
  /** See `footprintsOf`. */
  corners: Float64Array;
  colours: readonly string[];
  top: TopView | null;
  /** Whether it is the flat layout of a patch that is shown. */
  flat: boolean;
  /** The charts that are shown instead of the ground from above, and their picture. */
  charts: Charts | null;
  chartPicture: HTMLCanvasElement | null;
  /** How full it is, as a picture over the map's box. */
  tint: HTMLCanvasElement | null;
  lines: readonly { points: readonly Vec3[]; kind: "area" | "hole" | "line" }[];
  selected: ReadonlySet<Key>;
  hovered: Key | null;
  /** A box being drawn to select, or a clearing: corners, or middle and radius, in metres. */
  drawn:
    | { kind: "box"; from: readonly [number, number]; to: readonly [number, number] }
    | { kind: "clearing"; middle: readonly [number, number]; radius: number }
    | { kind: "brush"; middle: readonly [number, number]; radius: number; soft: number; puts: boolean }
    | null;
}

export function drawSheet(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  scene: SheetScene,
  view: SheetView,
): void {
  pen.clearRect(0, 0, width, height);
  const [left, top] = [RULER, RULER];
  const [cx, cz] = [left + (width - left) / 2, top + (height - top) / 2];
  const x = (at: number) => cx + (at - view.x) * view.scale;
  const y = (at: number) => cz + (at - view.z) * view.scale;
  pen.save();
  pen.beginPath();
  pen.rect(left, top, width - left, height - top);
  pen.clip();
  if (scene.charts) drawCharts(pen, scene.charts, scene.chartPicture, x, y);
  else if (scene.flat) drawCloth(pen, width, height, view, x, y);
  else drawGround(pen, scene, x, y);
  for (const line of scene.lines) drawLine(pen, line, x, y);
  drawPlacements(pen, scene, view, x, y, width, height);
  if (scene.flat) drawHandle(pen, x, y);
  drawShape(pen, scene, view, x, y);
  pen.restore();
  drawRulers(pen, width, height, view, x, y, scene.flat ? -1 : 1);
}

function drawGround(pen: CanvasRenderingContext2D, scene: SheetScene, x: ToPixels, y: ToPixels): void {
  if (scene.top) lay(pen, scene.top.picture, scene.top.least, scene.top.most, x, y, 0.85);
  const { density } = scene.placements;
  if (density && scene.tint) lay(pen, scene.tint, density.least, density.most, x, y, 1);
}

/** What a layout lies on: chalk lines at whole marks, the two through its handle stronger. */
function drawCloth(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
): void {
  const { across, down } = marksIn(view, width, height);
  pen.lineWidth = 1;
  const line = (at: number, upright: boolean) => {
    pen.strokeStyle = at === 0 ? inks.linen3 : inks.linen1;
    pen.beginPath();
    const pixel = Math.round(upright ? x(at) : y(at)) + 0.5;
    pen.moveTo(upright ? pixel : 0, upright ? 0 : pixel);
    pen.lineTo(upright ? pixel : width, upright ? height : pixel);
    pen.stroke();
  };
  for (const at of across) line(at, true);
  for (const at of down) line(at, false);
}

/** Where whole marks lie that the sheet shows, metres: side by side and one below the other, and how far apart. */
function marksIn(view: SheetView, width: number, height: number): { across: number[]; down: number[]; step: number } {
  const step = niceStep(64 / view.scale);
  const along = (middle: number, pixels: number): number[] => {
    const half = (pixels - RULER) / 2 / view.scale;
    const first = Math.ceil((middle - half) / step);
    return Array.from(
      { length: Math.max(0, Math.floor((middle + half) / step) - first + 1) },
      (_, k) => (first + k) * step,
    );
  };
  return { across: along(view.x, width), down: along(view.z, height), step };
}

/** The handle of a layout: a ring of wood, as in the view. */
function drawHandle(pen: CanvasRenderingContext2D, x: ToPixels, y: ToPixels): void {
  for (const [ink, broad] of [
    [inks.ink, 4.5],
    [inks.ochre, 2.5],
  ] as const) {
    pen.strokeStyle = ink;
    pen.lineWidth = broad;
    pen.beginPath();
    pen.arc(x(0), y(0), 5, 0, 2 * Math.PI);
    pen.stroke();
  }
}

/** Surfaces by their UVs: how full they are, their outlines and seams. */
function drawCharts(
  pen: CanvasRenderingContext2D,
  charts: Charts,
  picture: HTMLCanvasElement | null,
  x: ToPixels,
  y: ToPixels,
): void {
  const [least, most] = charts.box;
  if (picture) lay(pen, picture, least, most, x, y, 1);
  pen.beginPath();
  for (const borders of charts.borders) {
    for (let k = 0; k < borders.length; k += 4) {
      pen.moveTo(x(borders[k]), y(borders[k + 1]));
      pen.lineTo(x(borders[k + 2]), y(borders[k + 3]));
    }
  }
  pen.strokeStyle = "#8c7f66";
  pen.lineWidth = 1;
  pen.stroke();
}

type ToPixels = (at: number) => number;

function lay(
  pen: CanvasRenderingContext2D,
  picture: HTMLCanvasElement,
  least: readonly [number, number],
  most: readonly [number, number],
  x: ToPixels,
  y: ToPixels,
  alpha: number,
): void {
  pen.globalAlpha = alpha;
  pen.imageSmoothingEnabled = true;
  pen.drawImage(picture, x(least[0]), y(least[1]), x(most[0]) - x(least[0]), y(most[1]) - y(least[1]));
  pen.globalAlpha = 1;
}

function drawLine(
  pen: CanvasRenderingContext2D,
  { points, kind }: SheetScene["lines"][number],
  x: ToPixels,
  y: ToPixels,
) {
  pen.beginPath();
  points.forEach(([px, , pz], i) => (i === 0 ? pen.moveTo(x(px), y(pz)) : pen.lineTo(x(px), y(pz))));
  pen.strokeStyle = kind === "hole" ? inks.madder : kind === "area" ? inks.sea : inks.cord;
  pen.lineWidth = kind === "line" ? 1.2 : 2;
  pen.setLineDash(kind === "hole" ? [5, 4] : []);
  pen.stroke();
  pen.setLineDash([]);
}

function drawPlacements(
  pen: CanvasRenderingContext2D,
  { placements: p, corners, colours, ...scene }: SheetScene,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
  width: number,
  height: number,
): void {
  const chosen = new Set(indicesOf(p.key, scene.selected));
  const hovered = scene.hovered === null ? -1 : (indicesOf(p.key, new Set([scene.hovered]))[0] ?? -1);
  const byColour = colours.map(() => new Path2D());
  const fronts = new Path2D();
  // Outlines of what is small would hide its colour.
  const outlined = colours.map(() => false);
  const special: number[] = [];
  let dots: Dots | null = null;
  const inked = colours.map(packed);
  for (let i = 0; i < p.count; i++) {
    if (!isShown(p, i)) continue;
    const px = x((corners[8 * i] + corners[8 * i + 4]) / 2);
    const py = y((corners[8 * i + 1] + corners[8 * i + 5]) / 2);
    if (!(px >= -40 && py >= -40 && px <= width + 40 && py <= height + 40)) continue;
    const wide = corners[8 * i] - corners[8 * i + 4];
    const deep = corners[8 * i + 1] - corners[8 * i + 5];
    const breadth = view.scale * Math.sqrt(wide * wide + deep * deep);
    if (breadth < SMALL) (dots ??= new Dots(width, height)).put(px, py, breadth < TINY ? 1 : 2, inked[p.prop[i]]);
    else trace(byColour[p.prop[i]], corners, i, x, y);
    if (breadth >= EDGED) outlined[p.prop[i]] = true;
    if (breadth >= LARGE) front(fronts, corners, i, x, y);
    if (p.flags[i] & (FLAG.pegged | FLAG.finding) || chosen.has(i) || i === hovered) special.push(i);
  }
  dots?.layOver(pen);
  byColour.forEach((path, k) => {
    pen.fillStyle = colours[k];
    pen.fill(path);
    if (!outlined[k]) return;
    pen.strokeStyle = "#1f2a3388";
    pen.lineWidth = 0.75;
    pen.stroke(path);
  });
  pen.strokeStyle = inks.linen0;
  pen.lineWidth = 1.5;
  pen.stroke(fronts);
  drawSpecial(pen, p, corners, special, x, y, chosen, hovered);
}

/** A ring about what is selected, hovered or named by a finding; a dot on what is pegged. */
function drawSpecial(
  pen: CanvasRenderingContext2D,
  p: Placements,
  corners: Float64Array,
  special: readonly number[],
  x: ToPixels,
  y: ToPixels,
  selected: ReadonlySet<number>,
  hovered: number,
): void {
  const [found, chosen, under, pegged] = [new Path2D(), new Path2D(), new Path2D(), new Path2D()];
  for (const i of special) {
    if (selected.has(i)) trace(chosen, corners, i, x, y);
    else if (i === hovered) trace(under, corners, i, x, y);
    else if (p.flags[i] & FLAG.finding) trace(found, corners, i, x, y);
    if (!(p.flags[i] & FLAG.pegged)) continue;
    const [mx, mz] = middleOf(corners, i);
    pegged.moveTo(x(mx) + 3, y(mz));
    pegged.arc(x(mx), y(mz), 3, 0, 2 * Math.PI);
  }
  for (const [path, ink, broad] of [
    [found, inks.madder, 2],
    [under, inks.ink, 2],
    [chosen, inks.sea, 3],
  ] as const) {
    pen.strokeStyle = ink;
    pen.lineWidth = broad;
    pen.stroke(path);
  }
  pen.fillStyle = inks.ochre;
  pen.fill(pegged);
}

/** Goes back to where it began instead of closing: browsers look at all of a path anew each time part of it is closed. */
function trace(path: Path2D, corners: Float64Array, i: number, x: ToPixels, y: ToPixels): void {
  path.moveTo(x(corners[8 * i]), y(corners[8 * i + 1]));
  for (let k = 1; k <= 4; k++) {
    const corner = 8 * i + 2 * (k % 4);
    path.lineTo(x(corners[corner]), y(corners[corner + 1]));
  }
}

/** A short stroke from the middle to the front edge. */
function front(path: Path2D, corners: Float64Array, i: number, x: ToPixels, y: ToPixels): void {
  const [mx, mz] = middleOf(corners, i);
  const fx = (corners[8 * i] + corners[8 * i + 2]) / 2;
  const fz = (corners[8 * i + 1] + corners[8 * i + 3]) / 2;
  path.moveTo(x(mx), y(mz));
  path.lineTo(x(mx + 0.8 * (fx - mx)), y(mz + 0.8 * (fz - mz)));
}

function drawShape(
  pen: CanvasRenderingContext2D,
  { drawn }: SheetScene,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
): void {
  if (!drawn) return;
  if (drawn.kind === "brush") return drawBrush(pen, drawn, view, x, y);
  pen.beginPath();
  if (drawn.kind === "box") {
    const { from, to } = drawn;
    pen.rect(x(from[0]), y(from[1]), x(to[0]) - x(from[0]), y(to[1]) - y(from[1]));
  } else pen.arc(x(drawn.middle[0]), y(drawn.middle[1]), drawn.radius * view.scale, 0, 2 * Math.PI);
  pen.fillStyle = drawn.kind === "box" ? "#1e6f771c" : "#c98a1b2e";
  pen.fill();
  pen.strokeStyle = drawn.kind === "box" ? inks.sea : inks.ochre;
  pen.lineWidth = 1.5;
  pen.stroke();
}

/** Its rim, and where it is full. */
function drawBrush(
  pen: CanvasRenderingContext2D,
  { middle, radius, soft, puts }: Extract<SheetScene["drawn"], { kind: "brush" }>,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
): void {
  pen.strokeStyle = puts ? inks.sea : inks.madder;
  pen.lineWidth = 2;
  for (const share of [1, 1 - soft]) {
    pen.beginPath();
    pen.arc(x(middle[0]), y(middle[1]), Math.max(0.5, share * radius * view.scale), 0, 2 * Math.PI);
    pen.stroke();
    pen.lineWidth = 0.75;
  }
}

function drawRulers(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
  /** Whether numbers rise downwards or upwards. */
  sense: 1 | -1,
) {
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, width, RULER);
  pen.fillRect(0, 0, RULER, height);
  pen.fillStyle = inks.linen2;
  pen.fillRect(RULER, RULER - 1, width, 1);
  pen.fillRect(RULER - 1, RULER, 1, height);
  const { across, down, step } = marksIn(view, width, height);
  pen.font = MONO;
  pen.fillStyle = inks.faint;
  pen.textAlign = "center";
  for (const at of across) {
    pen.fillRect(Math.round(x(at)), RULER - 6, 1, 5);
    pen.fillText(markLabel(at, step), x(at), 12);
  }
  for (const at of down) {
    pen.fillRect(RULER - 6, Math.round(y(at)), 5, 1);
    // What would be cut off at either end is left out.
    if (y(at) < RULER + LABEL || y(at) > height - LABEL) continue;
    pen.save();
    pen.translate(11, y(at));
    pen.rotate(-Math.PI / 2);
    pen.fillText(markLabel(sense * at + 0, step), 0, 3);
    pen.restore();
  }
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, RULER, RULER);
  pen.fillStyle = inks.faint;
  pen.fillText("m", RULER / 2, 14);
}
