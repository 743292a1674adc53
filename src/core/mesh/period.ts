/** *Whether a chart closes round*: whether the two sides of its seam lie the same way straight across from each other everywhere. */

/** Lengths that differ by less than this share of the chart are one. */
const ALIKE = 1e-4;
/** So large a share of what lies on seams must be straight across from itself. */
const MOST = 0.9;

/**
 * How far apart the two sides of the seam lie, across and down, metres; 0 where it does not close that way.
 *
 * @param index the mesh's triangles, and `laid` the same by the chart's vertices: 3m
 * @param flat where the chart's vertices lie, as x, 0, y
 * @param sides how long the chart is across and down
 */
export function periodsOf(
  position: ArrayLike<number>,
  index: Uint32Array,
  laid: Uint32Array,
  flat: Float64Array,
  sides: readonly [across: number, down: number],
): [across: number, down: number] {
  const least = ALIKE * Math.max(...sides);
  // Which of the chart's vertices lie at each place of the mesh; what more than four have in common is a pole.
  const at = new Map<string, Set<number>>();
  const grain = least / 16;
  for (let c = 0; c < index.length; c++) {
    const p = 3 * index[c];
    const name = `${Math.round(position[p] / grain)} ${Math.round(position[p + 1] / grain)} ${Math.round(position[p + 2] / grain)}`;
    const here = at.get(name);
    if (here) here.add(laid[c]);
    else at.set(name, new Set([laid[c]]));
  }
  const offs: [number, number][] = [];
  for (const here of at.values()) {
    if (here.size < 2 || here.size > 4) continue;
    const [first, ...rest] = here;
    for (const other of rest) {
      const [x, y] = [0, 2].map((axis) => Math.abs(flat[3 * other + axis] - flat[3 * first + axis]));
      if (x > least || y > least) offs.push([x, y]);
    }
  }
  const periods = [0, 1].map((axis) => {
    const straight = offs.filter((off) => off[1 - axis] <= least).map((off) => off[axis]);
    return straight.length > 1 ? straight.sort((a, b) => a - b)[straight.length >> 1] : 0;
  });
  const fits = (off: number, axis: number) => off <= least || Math.abs(off - periods[axis]) <= least;
  const fitting = offs.filter((off) => off.every(fits)).length;
  return fitting >= MOST * offs.length ? [periods[0], periods[1]] : [0, 0];
}
