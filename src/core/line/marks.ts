/** The marks of a divided line: arc lengths between equal parts, which knots, pegs and placements catch on. */
import type { Curve } from "./curve";
import type { Line } from "./schema";

/** The marks, rising; an open line has them at its ends too. Empty for a line that is not divided. */
export function marksOf(line: Line, { length, closed, knotAt }: Curve): Float64Array {
  if (line.marks === 0 || !(length > 0)) return new Float64Array(0);
  if (line.marksPer === "quarter" && closed) {
    const bounds = [...knotAt, knotAt[0] + length];
    const marks = bounds
      .slice(1)
      .flatMap((end, i) =>
        Array.from({ length: line.marks }, (_, k) => bounds[i] + ((end - bounds[i]) * k) / line.marks),
      );
    return turned(marks, line.marksFrom, length);
  }
  const even = Array.from({ length: closed ? line.marks : line.marks + 1 }, (_, k) => (length * k) / line.marks);
  return closed ? turned(even, line.marksFrom, length) : Float64Array.from(even);
}

const turned = (marks: readonly number[], by: number, length: number): Float64Array =>
  Float64Array.from(marks, (at) => at + by - Math.floor((at + by) / length) * length).sort();
