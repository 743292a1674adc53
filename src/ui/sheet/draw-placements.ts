/** Draws placements on the sheet, each in its true footprint. */
import { FLAG, indicesOf, type Placements } from "@/core/place";
import { inks } from "../kit";
import { Dots, packed } from "./dots";
import type { SheetScene } from "./sheet-scene";
import type { ToPixels } from "./marks";
import { isShown, middleOf, type SheetView } from "./model";

/** Footprints smaller than so many pixels are dots of one or two; from the next on they have an edge; the largest show their front. */
const TINY = 0.75;
const SMALL = 2.5;
const EDGED = 5;
const LARGE = 9;

export function drawPlacements(
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
