/** Draws surfaces laid flat: linen and chalk lines, outlines and seams, where u and v begin, and what lies across a seam. */
import type { Key } from "@/core/place";
import { inks } from "../kit";
import type { Axes, Charts } from "./charts";
import type { SheetScene } from "./sheet-scene";
import { drawPlacements } from "./draw-placements";
import { marksIn, MONO, type ToPixels } from "./marks";
import type { SheetView } from "./model";

/** Surfaces laid flat: how full they are, chalk lines at whole marks, their outlines and seams. */
export function drawCharts(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  charts: Charts,
  picture: HTMLCanvasElement | null,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
  /** Whether it is tinted by how far lengths are off instead of how full it is. */
  stretched: boolean,
): void {
  const [least, most] = charts.box;
  pen.fillStyle = inks.linen1;
  pen.fillRect(0, 0, width, height);
  pen.fillStyle = inks.linen0;
  pen.fillRect(x(least[0]), y(least[1]), x(most[0]) - x(least[0]), y(most[1]) - y(least[1]));
  if (stretched) drawStretched(pen, charts, x, y);
  else if (picture) lay(pen, picture, least, most, x, y, 1);
  const { across, down } = marksIn(view, width, height, charts.axes?.at);
  pen.beginPath();
  for (const at of across) {
    if (at < least[0] || at > most[0]) continue;
    pen.moveTo(Math.round(x(at)) + 0.5, y(least[1]));
    pen.lineTo(Math.round(x(at)) + 0.5, y(most[1]));
  }
  for (const at of down) {
    if (at < least[1] || at > most[1]) continue;
    pen.moveTo(x(least[0]), Math.round(y(at)) + 0.5);
    pen.lineTo(x(most[0]), Math.round(y(at)) + 0.5);
  }
  pen.strokeStyle = inks.linen3;
  pen.globalAlpha = 0.6;
  pen.lineWidth = 1;
  pen.stroke();
  pen.globalAlpha = 1;
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

/** The more lengths are off, the redder. */
function drawStretched(pen: CanvasRenderingContext2D, charts: Charts, x: ToPixels, y: ToPixels): void {
  pen.save();
  pen.transform(x(1) - x(0), 0, 0, y(1) - y(0), x(0), y(0));
  pen.fillStyle = inks.madder;
  charts.stretched.forEach((path, step) => {
    pen.globalAlpha = 0.12 * (step + 1);
    pen.fill(path);
  });
  pen.restore();
}

/** What lies across a seam, beyond both of its sides, paler. */
export function drawAgain(
  pen: CanvasRenderingContext2D,
  scene: SheetScene,
  charts: Charts,
  { period }: Axes,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
  width: number,
  height: number,
): void {
  const [least, most] = charts.box;
  pen.save();
  pen.beginPath();
  pen.rect(0, 0, width, height);
  pen.rect(x(least[0]), y(least[1]), x(most[0]) - x(least[0]), y(most[1]) - y(least[1]));
  pen.clip("evenodd");
  pen.globalAlpha = 0.35;
  const plain = { ...scene, selected: NO_KEYS, hovered: null };
  for (const [axis, far] of period.entries()) {
    if (far === 0) continue;
    for (const by of [far, -far]) {
      const again = [x, y].map((to, k) => (k === axis ? (at: number) => to(at + by) : to));
      drawPlacements(pen, plain, view, again[0], again[1], width, height);
    }
  }
  pen.restore();
}

const NO_KEYS: ReadonlySet<Key> = new Set();
/** Notches at both sides of a seam are so far apart, pixels, and so large. */
const [NOTCHES, NOTCH] = [66, 6];
/** Arrows that name u and v are so long, pixels. */
const ARROW = 46;

/** Where u and v begin and go, and a tailor's notches at both sides of each seam: what meets there has the same. */
export function drawAxes(pen: CanvasRenderingContext2D, charts: Charts, axes: Axes, x: ToPixels, y: ToPixels): void {
  const [least, most] = charts.box;
  const [left, right, top, foot] = [x(least[0]), x(most[0]), y(least[1]), y(most[1])];
  const notches = (from: number, to: number, put: (at: number) => void) => {
    const count = Math.max(2, Math.round((to - from) / NOTCHES));
    for (let k = 0; k < count; k++) put(from + ((to - from) * (k + 0.5)) / count);
  };
  pen.fillStyle = inks.sea;
  pen.beginPath();
  const notch = (ax: number, ay: number, inX: number, inY: number) => {
    pen.moveTo(ax + NOTCH * inY, ay + NOTCH * inX);
    pen.lineTo(ax + 1.3 * NOTCH * inX, ay + 1.3 * NOTCH * inY);
    pen.lineTo(ax - NOTCH * inY, ay - NOTCH * inX);
  };
  if (axes.period[0] > 0) notches(top, foot, (at) => (notch(left, at, 1, 0), notch(right, at, -1, 0)));
  if (axes.period[1] > 0) notches(left, right, (at) => (notch(at, top, 0, 1), notch(at, foot, 0, -1)));
  pen.fill();
  const [ox, oy] = [x(axes.at[0]), y(axes.at[1])];
  arrow(pen, ox, oy, axes.right, 0, inks.sea, "u");
  arrow(pen, ox, oy, 0, axes.down, inks.ochre, "v");
}

function arrow(
  pen: CanvasRenderingContext2D,
  ox: number,
  oy: number,
  right: number,
  down: number,
  ink: string,
  name: string,
): void {
  const [tx, ty] = [ox + ARROW * right, oy + ARROW * down];
  pen.strokeStyle = ink;
  pen.lineWidth = 2.5;
  pen.beginPath();
  pen.moveTo(ox, oy);
  pen.lineTo(tx, ty);
  for (const side of [1, -1]) {
    pen.moveTo(tx - 7 * right + 5 * side * down, ty - 7 * down + 5 * side * right);
    pen.lineTo(tx, ty);
  }
  pen.stroke();
  pen.fillStyle = ink;
  pen.font = MONO;
  pen.textAlign = "center";
  pen.textBaseline = "middle";
  pen.fillText(name, tx + 9 * right, ty + 9 * down);
  pen.textBaseline = "alphabetic";
}

/** Lays a picture over its box. */
export function lay(
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
