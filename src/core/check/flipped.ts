/** Flipped: a prop stands the other way up than the one before it in its row, without anybody having asked for it. */
import { say, thing, naming, props, type Check, type Finding } from "./finding";

/** Ups count as opposed when the cosine of the angle between them is below this. */
const OPPOSED = -0.3;
/** Turns drawn within less than this to either side cannot turn a prop over, radians. */
const LOOSE = Math.PI / 2;

export const flipped: Check = {
  name: "flipped",
  label: "Flipped",
  find({ dressing, placements: p, rows }) {
    const { stance, variation } = dressing;
    const wide = [...variation.turnAlong, ...variation.turnAcross].some((turn) => Math.abs(turn) >= LOOSE);
    if (stance.flip === "along" || stance.flip === "across" || (variation.turnOn && wide)) return [];
    return p.lines.flatMap((line, index): Finding[] => {
      const members = new Set<number>();
      for (const row of rows[index]) {
        for (let k = 1; k < row.order.length; k++) {
          const i = row.order[k - 1];
          const j = row.order[k];
          if (upDot(p.rotation, i, j) < OPPOSED) members.add(i).add(j);
        }
      }
      if (members.size === 0) return [];
      const named = [...members];
      return [
        {
          check: "flipped",
          dressing: dressing.id,
          line,
          ...naming(p, named),
          message: say`${props(named.length)} on ${thing(line)} ${named.length === 1 ? "stands" : "stand"} upside down against a neighbour, where the line turns over.`,
          ...(stance.up !== "line" && { mend: "up-from-line" as const }),
        },
      ];
    });
  },
};

/** The cosine of the angle between the ups of two placements. */
function upDot(q: Float32Array, i: number, j: number): number {
  const a = 4 * i;
  const b = 4 * j;
  return (
    4 * (q[a] * q[a + 1] - q[a + 3] * q[a + 2]) * (q[b] * q[b + 1] - q[b + 3] * q[b + 2]) +
    (1 - 2 * (q[a] * q[a] + q[a + 2] * q[a + 2])) * (1 - 2 * (q[b] * q[b] + q[b + 2] * q[b + 2])) +
    4 * (q[a + 1] * q[a + 2] + q[a + 3] * q[a]) * (q[b + 1] * q[b + 2] + q[b + 3] * q[b])
  );
}
