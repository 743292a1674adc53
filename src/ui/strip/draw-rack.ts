/** Draws a rack on the strip: every one at its true height from the front, or as far back as it is from above. */
import { FLAG, NO_PROP } from "@/core/place";
import { inks } from "../kit";
import type { Pose } from "./elevation";
import { PULL } from "./grips";
import type { RackLayout, StripScene } from "./layout";
import { NARROW, rounded } from "./pen";

/** One of a rack at its true place: what is gone as an outline, so that what stands behind it is seen. */
export function drawInRack(
  pen: CanvasRenderingContext2D,
  scene: StripScene,
  i: number,
  { left, width }: { left: number; width: number },
  cord: number,
  { ends, scale }: RackLayout,
  pose: Pose | undefined,
  ring: string | null,
): void {
  const { placements: p } = scene;
  const prop = p.prop[i];
  const [low, high] = ends(i);
  const [top, tall] = [cord - 1 - high * scale, Math.max(1, (high - low) * scale)];
  const picture = pose && scene.elevation(prop, pose);
  if (p.flags[i] & FLAG.blank || prop === NO_PROP) {
    if (tall < NARROW || width < NARROW) return;
    pen.setLineDash([3, 2]);
    pen.lineWidth = 1;
    pen.strokeStyle = "#b9a784";
    rounded(pen, left + 0.5, top + 0.5, Math.max(1, width - 1), Math.max(1, tall - 1), 3);
    pen.stroke();
    pen.setLineDash([]);
  } else if (picture) pen.drawImage(picture, left, top, width, tall);
  else {
    pen.fillStyle = scene.colours[prop] ?? inks.linen3;
    rounded(pen, left, top, width, tall, 3);
    pen.fill();
    if (tall >= NARROW && width >= NARROW) {
      pen.lineWidth = 1;
      pen.strokeStyle = inks.linen0;
      pen.stroke();
    }
  }
  if (p.flags[i] & FLAG.pegged) {
    pen.fillStyle = inks.ochre;
    rounded(pen, left + width / 2 - 3, top + tall / 2 - 6, 6, 12, 2);
    pen.fill();
  }
  if (!ring) return;
  pen.strokeStyle = ring;
  pen.lineWidth = ring === inks.ink ? 1.6 : 1.2;
  rounded(pen, left - 1, top - 1, width + 2, tall + 2, 4);
  pen.stroke();
}

/** What the height of a rack, or its depth, is pulled by. */
export function drawPull(pen: CanvasRenderingContext2D, { x, y }: { x: number; y: number }): void {
  // It may lie over the first column.
  pen.fillStyle = inks.linen0;
  rounded(pen, x - PULL - 2, y - 10, 2 * PULL + 4, 20, 4);
  pen.fill();
  pen.fillStyle = inks.sea;
  rounded(pen, x - PULL, y - 2, 2 * PULL, 4, 2);
  pen.fill();
  for (const way of [-1, 1]) {
    pen.beginPath();
    pen.moveTo(x, y + way * 8);
    pen.lineTo(x - 4, y + way * 4);
    pen.lineTo(x + 4, y + way * 4);
    pen.fill();
  }
}
