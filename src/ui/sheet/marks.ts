/** Whole marks on the sheet, and the rulers that name them. */
import { inks, markLabel, niceStep } from "../kit";
import type { Axes } from "./charts";
import type { SheetView } from "./model";

export const MONO = '10px "Spline Sans Mono Variable", monospace';

/** Rulers at the top and on the left are so broad, pixels. */
export const RULER = 22;
/** Half as long as a label on the ruler is at most. */
const LABEL = 12;

/** From metres of the sheet to pixels. */
export type ToPixels = (at: number) => number;

/** Where numbers are counted from, and which way they rise. */
export type Measured = Pick<Axes, "at" | "right" | "down">;
export const FROM_ABOVE: Measured = { at: [0, 0], right: 1, down: 1 };
export const ABOUT_HANDLE: Measured = { at: [0, 0], right: 1, down: -1 };

/**
 * Where whole marks lie that the sheet shows, metres: side by side and one below the other, and how far apart.
 *
 * @param from where they are counted from
 */
export function marksIn(
  view: SheetView,
  width: number,
  height: number,
  from: readonly [number, number] = [0, 0],
): { across: number[]; down: number[]; step: number } {
  const step = niceStep(64 / view.scale);
  const along = (middle: number, pixels: number, zero: number): number[] => {
    const half = (pixels - RULER) / 2 / view.scale;
    const first = Math.ceil((middle - half - zero) / step);
    return Array.from(
      { length: Math.max(0, Math.floor((middle + half - zero) / step) - first + 1) },
      (_, k) => zero + (first + k) * step,
    );
  };
  return { across: along(view.x, width, from[0]), down: along(view.z, height, from[1]), step };
}

export function drawRulers(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: SheetView,
  x: ToPixels,
  y: ToPixels,
  { at: from, right, down: sense }: Measured,
) {
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, width, RULER);
  pen.fillRect(0, 0, RULER, height);
  pen.fillStyle = inks.linen2;
  pen.fillRect(RULER, RULER - 1, width, 1);
  pen.fillRect(RULER - 1, RULER, 1, height);
  const { across, down, step } = marksIn(view, width, height, from);
  pen.font = MONO;
  pen.fillStyle = inks.faint;
  pen.textAlign = "center";
  for (const at of across) {
    pen.fillRect(Math.round(x(at)), RULER - 6, 1, 5);
    pen.fillText(markLabel(right * (at - from[0]) + 0, step), x(at), 12);
  }
  for (const at of down) {
    pen.fillRect(RULER - 6, Math.round(y(at)), 5, 1);
    // What would be cut off at either end is left out.
    if (y(at) < RULER + LABEL || y(at) > height - LABEL) continue;
    pen.save();
    pen.translate(11, y(at));
    pen.rotate(-Math.PI / 2);
    pen.fillText(markLabel(sense * (at - from[1]) + 0, step), 0, 3);
    pen.restore();
  }
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, RULER, RULER);
  pen.fillStyle = inks.faint;
  pen.fillText("m", RULER / 2, 14);
}
