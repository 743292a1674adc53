/**
 * *Nested dissection*: an order of elimination for systems over places that are joined to near ones only. Halves are
 * eliminated before the places that part them (A. George, *Nested Dissection of a Regular Finite Element Mesh*, SIAM Journal
 * on Numerical Analysis 10(2), 1973), so that next to nothing is filled in between them; each half likewise.
 */

/** So few are eliminated as they come. */
const FEW = 24;

/**
 * @param position where they lie: 3n
 * @param start where the neighbours of each begin: n + 1
 * @param neighbour all neighbours, behind each other
 * @returns which is eliminated when: a permutation of 0 to n − 1
 */
export function nestedDissection(
  position: ArrayLike<number>,
  start: ArrayLike<number>,
  neighbour: ArrayLike<number>,
): Uint32Array {
  const n = start.length - 1;
  const order = Uint32Array.from({ length: n }, (_, i) => i);
  const side = new Uint8Array(n);
  const along = new Float64Array(n);
  const room = new Uint32Array(n);

  const dissect = (from: number, to: number): void => {
    if (to - from <= FEW) return;
    const axis = longestAxis(position, order, from, to);
    for (let k = from; k < to; k++) along[order[k]] = position[3 * order[k] + axis];
    order.subarray(from, to).sort((a, b) => along[a] - along[b] || a - b);
    const middle = (from + to) >> 1;
    for (let k = from; k < to; k++) side[order[k]] = k < middle ? 1 : 2;
    // Those of the first half that touch the second part them.
    let [first, parting] = [from, 0];
    for (let k = from; k < middle; k++) {
      const v = order[k];
      let touches = false;
      for (let e = start[v]; e < start[v + 1] && !touches; e++) touches = side[neighbour[e]] === 2;
      if (touches) room[parting++] = v;
      else order[first++] = v;
    }
    order.copyWithin(first, middle, to);
    const last = first + (to - middle);
    order.set(room.subarray(0, parting), last);
    for (let k = from; k < to; k++) side[order[k]] = 0;
    dissect(from, first);
    dissect(first, last);
  };
  dissect(0, n);
  return order;
}

function longestAxis(position: ArrayLike<number>, order: Uint32Array, from: number, to: number): number {
  let [best, longest] = [0, -1];
  for (let axis = 0; axis < 3; axis++) {
    let [least, most] = [Infinity, -Infinity];
    for (let k = from; k < to; k++) {
      const x = position[3 * order[k] + axis];
      if (x < least) least = x;
      if (x > most) most = x;
    }
    if (most - least > longest) [best, longest] = [axis, most - least];
  }
  return best;
}
