/** Draws the sheet: the ground from above, how full it is, outlines and lines, every placement in its true footprint. */
import { inks } from "../kit";
import { drawAgain, drawAxes, drawCharts, lay } from "./draw-charts";
import { drawPlacements } from "./draw-placements";
import { sizeCorner, stretchSides } from "./grips";
import { ABOUT_HANDLE, drawRulers, FROM_ABOVE, marksIn, RULER, type ToPixels } from "./marks";
import type { SheetView } from "./model";
import type { SheetScene } from "./sheet-scene";

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
  const axes = scene.charts?.axes ?? null;
  if (scene.charts) drawCharts(pen, width, height, scene.charts, scene.chartPicture, view, x, y, scene.stretched);
  else if (scene.flat) drawCloth(pen, width, height, view, x, y);
  else drawGround(pen, scene, x, y);
  for (const line of scene.lines) drawLine(pen, line, x, y);
  if (scene.charts && axes) drawAgain(pen, scene, scene.charts, axes, view, x, y, width, height);
  drawPlacements(pen, scene, view, x, y, width, height);
  if (scene.charts && axes) drawAxes(pen, scene.charts, axes, x, y);
  if (scene.flat) drawHandle(pen, x, y);
  drawGrips(pen, scene, view.scale, x, y);
  drawShape(pen, scene, view, x, y);
  pen.restore();
  drawRulers(pen, width, height, view, x, y, axes ?? (scene.flat ? ABOUT_HANDLE : FROM_ABOVE));
}

function drawGround(pen: CanvasRenderingContext2D, scene: SheetScene, x: ToPixels, y: ToPixels): void {
  if (scene.top) lay(pen, scene.top.picture, scene.top.least, scene.top.most, x, y, 0.85);
  const density = scene.sight?.density;
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

/** Knots that can be dragged, the corner that sizes what is selected, and the sides that stretch it. */
function drawGrips(pen: CanvasRenderingContext2D, scene: SheetScene, scale: number, x: ToPixels, y: ToPixels): void {
  const square = ([ax, ay]: readonly [number, number], half: number, ink: string) => {
    pen.fillStyle = inks.linen0;
    pen.strokeStyle = ink;
    pen.lineWidth = 1.5;
    pen.beginPath();
    pen.rect(x(ax) - half, y(ay) - half, 2 * half, 2 * half);
    pen.fill();
    pen.stroke();
  };
  for (const { at } of scene.knots) square(at, 3, inks.cord);
  const corner = sizeCorner(scene, scale);
  if (corner) square(corner.at, 3.5, inks.ochre);
  for (const { side } of stretchSides(scene, scale)) square(side, 2.5, inks.ochre);
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
