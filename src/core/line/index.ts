/** Lines: each kind in a file of its own, all becoming a {@link Curve}; frames along any of them. */
import { hangingRope } from "./hanging";
import { polyline } from "./polyline";
import { smooth } from "./smooth";
import { stationsOf, type Stations } from "./stations";
import type { Curve } from "./curve";
import type { Line, LineKind } from "./schema";

export { type Curve } from "./curve";
export { writeFrames, type UpRule } from "./frames";
export * from "./schema";

/** The table of kinds: the words for each and how it becomes a curve. */
export const LINE_KINDS: { [K in LineKind]: { label: string; curve: (line: Extract<Line, { kind: K }>) => Curve } } = {
  polyline: { label: "Straight", curve: polyline },
  smooth: { label: "Smooth", curve: smooth },
  hanging: { label: "Hanging rope", curve: hangingRope },
};

/** The curve of a line of any kind. */
export function curveOf(line: Line): Curve {
  return LINE_KINDS[line.kind].curve(line as never);
}

/** *A line ready to be placed along*: its curve, and its stations as soon as somebody asks for them. */
export class GuideLine {
  readonly id: string;
  readonly number: number;
  readonly curve: Curve;
  #stations: Stations | undefined;

  constructor(line: Line) {
    this.id = line.id;
    this.number = line.number;
    this.curve = curveOf(line);
  }

  get stations(): Stations {
    return (this.#stations ??= stationsOf(this.curve));
  }
}
