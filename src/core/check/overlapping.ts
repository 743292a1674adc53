/**
 * Overlapping: props that run into each other in space, on whatever lines and rows they stand: by their boxes, or where they
 * are kept clear by their meshes by these.
 */
import { Boxes, byMesh } from "../place";
import { middleAndHalf } from "./footing";
import { isStanding, type Row } from "./rows";
import { say, metres, naming, props, type Check } from "./finding";
import type { Checked } from "./finding";

/** Overlaps up to a millimetre, or up to this share of the smaller prop, are let pass. */
const LEAST = 0.001;
const SHARE = 0.02;
/** So many overlaps of each placement are looked at, fewer where all together would be more than so many pairs. */
const MOST_EACH = 16;
const PAIRS = 1_000_000;

export const overlapping: Check = {
  name: "overlapping",
  label: "Overlapping",
  find(checked) {
    const { dressing, placements } = checked;
    const { members, worst } = overlapsIn(checked);
    if (members.length === 0) return [];
    return [
      {
        check: "overlapping",
        dressing: dressing.id,
        ...naming(placements, members),
        worst,
        message: say`${props(members.length)} run into each other, by up to ${metres(worst)}.`,
        mend: "keep-clear",
      },
    ];
  },
};

/** Indices of the placements that overlap another which is not just before or after them in their own row. */
function overlapsIn({ dressing, placements: p, box, body, rows }: Checked): { members: number[]; worst: number } {
  const standing = new Uint32Array(p.count);
  let count = 0;
  // What is bent has left its box.
  for (let i = 0; i < p.count; i++)
    if (isStanding(p, i) && !(p.shapes && p.shapes.entry[i] >= 0)) standing[count++] = i;
  const members: number[] = [];
  if (count < 2) return { members, worst: 0 };
  const boxes = new Boxes(
    p,
    standing.subarray(0, count),
    Float64Array.from(p.props.flatMap((prop) => middleAndHalf(box(prop)))),
    "box",
    0,
    dressing.fit.clear === "mesh" ? byMesh(p, p.props.map(body), 0) : null,
  );
  const next = neighboursOf(p, rows.flat());
  const areNeighbours = (k: number, other: number): boolean =>
    next[standing[k]] === standing[other] || next[standing[other]] === standing[k];
  const met = new Uint8Array(p.count);
  const most = Math.max(3, Math.min(MOST_EACH, Math.round(PAIRS / count)));
  let worst = 0;
  for (let k = 0; k < count; k++) {
    const i = standing[k];
    boxes.eachHit(k, most, areNeighbours, (other, by) => {
      const j = standing[other];
      if (by < LEAST || by < SHARE * smallerOf(p, i, j)) return;
      met[i] = met[j] = 1;
      worst = Math.max(worst, by);
    });
    boxes.put(k);
  }
  for (let k = 0; k < count; k++) if (met[standing[k]] === 1) members.push(standing[k]);
  return { members, worst };
}

const smallerOf = ({ reach }: Checked["placements"], i: number, j: number): number =>
  Math.min(reach[2 * i] + reach[2 * i + 1], reach[2 * j] + reach[2 * j + 1]);

/** For each placement the one that stands next to it in its row, or -1. */
function neighboursOf(p: Checked["placements"], rows: readonly Row[]): Int32Array {
  const next = new Int32Array(p.count).fill(-1);
  for (const { line, order } of rows) {
    for (let k = 1; k < order.length; k++) next[order[k - 1]] = order[k];
    if (p.lineClosed[line] && order.length > 1) next[order[order.length - 1]] = order[0];
  }
  return next;
}
