/** Draws the strip: ruler, cord, every placement at its arc length in its true width, blanks, pegs, insets, findings. */
import { drawInRack, drawPull } from "./draw-rack";
import { BAR, barTop, gapsOn, pullAt, START } from "./grips";
import { keysNamed } from "@/core/check";
import { FLAG, NO_PROP, indicesOf } from "@/core/place";
import { poseOf, type Pose } from "./elevation";
import { layoutOf, painted, rackLayout, tallOf, type StripScene } from "./layout";
import { NARROW, rounded } from "./pen";
import { quatAt } from "@/core/math";
import { inks, markLabel, niceStep } from "../kit";
import { RULER, type RowBox, type StripRow, type StripView } from "./model";

const MONO = '10px "Spline Sans Mono Variable", monospace';
const SANS = '11px "Spline Sans Variable", sans-serif';

export function drawStrip(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  scene: StripScene,
  view: StripView,
): void {
  pen.clearRect(0, 0, width, height);
  const x = (at: number) => (at - view.from) * view.scale;
  const told = toldOf(scene);
  scene.rows.forEach((row, k) => {
    const box = scene.boxes[k];
    if (k > 0) hairline(pen, 0, width, box.top);
    drawRow(pen, width, scene, told, row, k, box, view, x);
  });
  drawRuler(pen, width, scene, view, x);
}

/** What is told of single placements: their indices. */
interface Told {
  chosen: ReadonlySet<number>;
  hovered: ReadonlySet<number>;
  /** Those that findings about lines name. */
  named: ReadonlySet<number>;
}

function toldOf({ placements: { key }, selected, hovered, findings }: StripScene): Told {
  const about = findings.filter(({ line }) => line !== undefined);
  return {
    chosen: new Set(indicesOf(key, selected)),
    hovered: new Set(hovered === null ? [] : indicesOf(key, new Set([hovered]))),
    named: new Set(indicesOf(key, keysNamed(about))),
  };
}

const hairline = (pen: CanvasRenderingContext2D, from: number, to: number, y: number) => {
  pen.fillStyle = inks.linen2;
  pen.fillRect(from, y, to - from, 1);
};

function drawRuler(
  pen: CanvasRenderingContext2D,
  width: number,
  scene: StripScene,
  view: StripView,
  x: (at: number) => number,
): void {
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, width, RULER);
  const longest = Math.max(0, ...scene.rows.map((row) => row.length));
  const step = niceStep(60 / view.scale);
  pen.font = MONO;
  pen.textAlign = "center";
  const first = Math.max(0, Math.floor(view.from / (step / 2)));
  const last = Math.ceil(Math.min(longest, view.from + width / view.scale) / (step / 2));
  for (let k = first; k <= last; k++) {
    const at = (k * step) / 2;
    if (at > longest + 1e-9) break;
    const big = k % 2 === 0;
    pen.fillStyle = "#b9ab90";
    pen.fillRect(Math.round(x(at)), 15, 1, big ? 8 : 4);
    if (!big) continue;
    pen.fillStyle = inks.faint;
    pen.fillText(markLabel(at, step), x(at), 11);
  }
}

function drawRow(
  pen: CanvasRenderingContext2D,
  width: number,
  scene: StripScene,
  told: Told,
  row: StripRow,
  index: number,
  box: RowBox,
  view: StripView,
  x: (at: number) => number,
): void {
  const { placements: p, dressing } = scene;
  const { hangs, foot, room, cord } = layoutOf(scene, index);

  if (scene.stretch?.row === index) {
    const [a, b] = [x(scene.stretch.from), x(scene.stretch.to)];
    pen.fillStyle = scene.stretch.holds ? "#c98a1b2e" : "#1e6f771c";
    pen.fillRect(Math.min(a, b), box.top + 2, Math.abs(b - a), box.height - 4);
  }
  if (scene.rows.length > 1) {
    pen.font = SANS;
    pen.textAlign = "left";
    pen.fillStyle = inks.faint;
    const { fromStart, slide } = dressing.spacing;
    pen.fillText(
      scene.names[index],
      Math.max(6, hangs ? x(fromStart + slide) + 12 : x(0)),
      hangs ? box.top + 11 : box.top + 12,
    );
  }

  pen.lineCap = "round";
  pen.strokeStyle = inks.sea;
  pen.lineWidth = 3;
  pen.beginPath();
  pen.moveTo(x(0), cord);
  pen.lineTo(x(row.length), cord);
  pen.stroke();

  drawMarks(pen, scene.marks[index] ?? [], cord, x, width);
  for (const gap of gapsOn(dressing, row.line, row.length, row.closed)) {
    drawGap(pen, box, x(gap.from), x(gap.to), barTop(hangs, cord), gap.index === scene.gap);
  }

  const ends = (i: number) => [x(p.at[i] - p.reach[2 * i]), x(p.at[i] + p.reach[2 * i + 1])] as const;
  const seen = row.order.filter((i) => ends(i)[1] >= -40 && ends(i)[0] <= width + 40);
  const rack = rackLayout(scene, index, view.scale);
  const fromAbove = rack !== null && scene.aspect === "plan";
  const poses = posesOf(scene, index, fromAbove ? NONE : seen, (i) => ends(i)[1] - ends(i)[0] >= NARROW);
  for (const i of painted(scene, seen)) {
    const [left, right] = ends(i);
    const ring = told.chosen.has(i) ? inks.ink : told.hovered.has(i) ? inks.sea : null;
    const box = { left, width: Math.max(1, right - left) };
    if (rack) drawInRack(pen, scene, i, box, cord, rack, poses.get(i), ring);
    else drawSlot(pen, scene, i, box.left, box.width, cord, hangs, room, poses.get(i), view.scale, ring);
  }
  if (rack) drawPull(pen, pullAt(rack, cord, x(0)));

  pen.setLineDash([2, 3]);
  pen.lineWidth = 1;
  pen.strokeStyle = inks.sea;
  for (const at of [dressing.spacing.fromStart, row.length - dressing.spacing.fromEnd]) {
    if (at < 0 || at > row.length) continue;
    pen.beginPath();
    pen.moveTo(Math.round(x(at)) + 0.5, hangs ? cord - 4 : box.top + 16);
    pen.lineTo(Math.round(x(at)) + 0.5, hangs ? box.top + box.height - foot : cord + 6);
    pen.stroke();
  }
  pen.setLineDash([]);
  drawSlide(pen, x(dressing.spacing.fromStart + dressing.spacing.slide), barTop(hangs, cord) + BAR / 2);
  if (scene.movable[index]) drawStart(pen, x(0), cord);
  for (const orphan of scene.orphans) if (orphan.row === index) drawOrphan(pen, x(orphan.at), cord);
  if (scene.caught?.row === index) {
    pen.fillStyle = inks.madder;
    pen.fillRect(Math.round(x(scene.caught.at)), box.top + 4, 1.5, box.height - 8);
  }
  drawFindings(pen, scene, told.named, row, cord, hangs, room, view.scale, x);
}

/** How those placements stand that are wide enough to be drawn as what they are. */
function posesOf(
  scene: StripScene,
  row: number,
  seen: Int32Array,
  wide: (i: number) => boolean,
): ReadonlyMap<number, Pose> {
  const { placements: p, bounds } = scene;
  const shown = seen.filter((i) => p.prop[i] !== NO_PROP && !(p.flags[i] & FLAG.blank) && wide(i));
  const frames =
    shown.length > 0
      ? scene.frames(
          row,
          Float64Array.from(shown, (i) => p.at[i]),
        )
      : null;
  if (!frames) return new Map();
  return new Map(Array.from(shown, (i, k) => [i, poseOf(p, i, quatAt(frames, k), bounds[p.prop[i]])]));
}

function drawMarks(
  pen: CanvasRenderingContext2D,
  marks: ArrayLike<number>,
  cord: number,
  x: (at: number) => number,
  width: number,
): void {
  pen.fillStyle = inks.linen0;
  pen.strokeStyle = inks.sea;
  pen.lineWidth = 1.5;
  for (let k = 0; k < marks.length; k++) {
    const at = x(marks[k]);
    if (at < -4 || at > width + 4) continue;
    pen.beginPath();
    pen.arc(at, cord, 3.2, 0, 7);
    pen.fill();
    pen.stroke();
  }
}

/** A gap held open: a light field across the row, and the bar that it is held by, with a grip at each end. */
function drawGap(
  pen: CanvasRenderingContext2D,
  box: RowBox,
  left: number,
  right: number,
  top: number,
  chosen: boolean,
): void {
  pen.fillStyle = "#c98a1b1f";
  pen.fillRect(left, box.top + 3, right - left, box.height - 6);
  pen.fillStyle = chosen ? inks.ochre : "#e4c88d";
  rounded(pen, left, top + 2, Math.max(2, right - left), BAR - 4, 2);
  pen.fill();
  pen.fillStyle = chosen ? inks.wood : inks.ochre;
  for (const end of [left, right]) {
    rounded(pen, end - 2, top - 1, 4, BAR + 2, 2);
    pen.fill();
  }
}

/** The grip that all slots are slid by. */
function drawSlide(pen: CanvasRenderingContext2D, at: number, middle: number): void {
  pen.fillStyle = inks.sea;
  for (const side of [-1, 1]) {
    pen.beginPath();
    pen.moveTo(at + side * 7, middle);
    pen.lineTo(at + side * 2, middle - 4);
    pen.lineTo(at + side * 2, middle + 4);
    pen.fill();
  }
}

/** Where a line starts that may start anywhere: a wooden ring. */
function drawStart(pen: CanvasRenderingContext2D, at: number, cord: number): void {
  pen.strokeStyle = inks.wood;
  pen.fillStyle = inks.linen0;
  pen.lineWidth = 2.5;
  pen.beginPath();
  pen.arc(at, cord, START - 1, 0, 7);
  pen.fill();
  pen.stroke();
}

/** A peg without a slot. */
function drawOrphan(pen: CanvasRenderingContext2D, at: number, cord: number): void {
  pen.strokeStyle = inks.madder;
  pen.fillStyle = inks.linen0;
  pen.lineWidth = 1.5;
  rounded(pen, at - 3, cord - 8, 6, 15, 2);
  pen.fill();
  pen.stroke();
}

function drawSlot(
  pen: CanvasRenderingContext2D,
  scene: StripScene,
  i: number,
  left: number,
  width: number,
  cord: number,
  hangs: boolean,
  room: number,
  pose: Pose | undefined,
  scale: number,
  ring: string | null,
): void {
  const { placements: p } = scene;
  const prop = p.prop[i];
  const full = pose ? Math.max(3, pose.tall * scale) : tallOf(scene, i, room, scale);
  const tall = Math.min(room, full);
  const top = hangs ? cord + 1 : cord - 1 - tall;
  if (p.flags[i] & FLAG.blank || prop === NO_PROP) {
    hatch(pen, left, top, Math.max(3, width), tall);
  } else {
    const picture = pose && scene.elevation(prop, pose);
    if (picture) {
      // What is too tall for the row is drawn smaller about its true foot, and a bar on the cord keeps its true width.
      const smaller = tall / full;
      const shown = width * smaller;
      if (shown < width) footprint(pen, left, width, hangs ? cord + 1 : cord - 4, scene.colours[prop] ?? inks.linen3);
      const foot = left + p.reach[2 * i] * scale;
      pen.drawImage(picture, foot - p.reach[2 * i] * scale * smaller, top, shown, tall);
    } else {
      pen.fillStyle = scene.colours[prop] ?? inks.linen3;
      pen.fillRect(left, top, Math.max(1, width), tall);
    }
  }
  if (p.flags[i] & FLAG.pegged) {
    const x = left + width / 2;
    pen.fillStyle = inks.ochre;
    rounded(pen, x - 3, cord - 8, 6, 15, 2);
    pen.fill();
    pen.fillStyle = inks.wood;
    pen.fillRect(x - 3, cord, 6, 1.5);
  }
  if (ring) {
    pen.strokeStyle = ring;
    pen.lineWidth = ring === inks.ink ? 1.6 : 1.2;
    rounded(pen, left - 3, Math.min(top, cord - 5) - 2, width + 6, tall + 9, 6);
    pen.stroke();
  }
}

const NONE = new Int32Array(0);

function footprint(pen: CanvasRenderingContext2D, x: number, width: number, y: number, color: string): void {
  pen.globalAlpha = 0.45;
  pen.fillStyle = color;
  pen.fillRect(x, y, width, 3);
  pen.globalAlpha = 1;
}

function hatch(pen: CanvasRenderingContext2D, x: number, y: number, w: number, h: number): void {
  pen.save();
  rounded(pen, x, y + 1, w, h - 2, 3);
  pen.fillStyle = inks.linen1;
  pen.fill();
  pen.clip();
  pen.strokeStyle = inks.linen3;
  pen.lineWidth = 1.5;
  pen.beginPath();
  for (let d = -h; d < w; d += 6) {
    pen.moveTo(x + d, y + h);
    pen.lineTo(x + d + h, y);
  }
  pen.stroke();
  pen.restore();
  pen.setLineDash([3, 2]);
  pen.lineWidth = 1;
  pen.strokeStyle = "#b9a784";
  rounded(pen, x + 0.5, y + 1.5, Math.max(1, w - 1), h - 3, 3);
  pen.stroke();
  pen.setLineDash([]);
}

/** A madder frame about what a finding names, with a mark below. */
function drawFindings(
  pen: CanvasRenderingContext2D,
  scene: StripScene,
  named: ReadonlySet<number>,
  row: StripRow,
  cord: number,
  hangs: boolean,
  room: number,
  scale: number,
  x: (at: number) => number,
): void {
  const { placements: p } = scene;
  if (named.size === 0) return;
  let from = 0;
  let to = -Infinity;
  let tall = 0;
  const frame = () => {
    if (to === -Infinity) return;
    const [left, right] = [x(from) - 2, x(to) + 2];
    const high = Math.min(room, tall) + 10;
    const top = hangs ? cord - 4 : cord - high + 6;
    pen.strokeStyle = inks.madder;
    pen.lineWidth = 1.5;
    rounded(pen, left, top, right - left, high, 5);
    pen.stroke();
    pen.fillStyle = inks.madder;
    pen.beginPath();
    const [middle, foot] = [(left + right) / 2, top + high];
    pen.moveTo(middle - 5, foot + 5);
    pen.lineTo(middle + 5, foot + 5);
    pen.lineTo(middle, foot - 2);
    pen.fill();
  };
  for (const i of row.order) {
    if (!named.has(i)) continue;
    const [left, right] = [p.at[i] - p.reach[2 * i], p.at[i] + p.reach[2 * i + 1]];
    if (left > to) {
      frame();
      from = left;
      to = right;
      tall = 0;
    } else to = Math.max(to, right);
    tall = Math.max(tall, tallOf(scene, i, room, scale));
  }
  frame();
}
