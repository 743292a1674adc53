/** Lines: each kind in a file of its own, all becoming a {@link Curve}; frames along any of them. */
import { curveOf } from "./kinds";
import { stationsOf, type Stations } from "./stations";
import type { Curve } from "./curve";
import type { Line } from "./schema";

export { asKind, joined, reversed, splitAt } from "./convert";
export { type Curve } from "./curve";
export { curveOf, LINE_KINDS } from "./kinds";
export { writeFrames, type UpRule } from "./frames";
export * from "./schema";

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
