/** The kinds of line: the word for each and how it becomes a curve. */
import { arc } from "./arc";
import { bezier } from "./bezier";
import { circle } from "./circle";
import { coil, wholeTurns } from "./coil";
import { ellipse } from "./ellipse";
import { hangingRope } from "./hanging";
import { polyline } from "./polyline";
import { rectangle } from "./rectangle";
import { ringed } from "./ring";
import { smooth } from "./smooth";
import type { Curve } from "./curve";
import {
  arcSchema,
  betweenSchema,
  bezierSchema,
  circleSchema,
  coilSchema,
  ellipseSchema,
  hangingSchema,
  polylineSchema,
  rectangleSchema,
  smoothSchema,
  type Line,
  type LineKind,
} from "./schema";
import type { z } from "zod";

const NOWHERE = { knots: [{ id: 0, position: [0, 0, 0] as const }], closed: false, cornerRadius: 0 };

/** The table of kinds: the words for each and how it becomes a curve. */
export const LINE_KINDS: {
  [K in LineKind]: {
    label: string;
    schema: z.ZodObject;
    curve: (line: Extract<Line, { kind: K }>) => Curve;
    /** Its spans are so long that they look bent; others are drawn straight from end to end of each. */
    curved?: true;
  };
} = {
  polyline: { schema: polylineSchema, label: "Straight", curve: polyline },
  smooth: { schema: smoothSchema, label: "Smooth", curve: smooth, curved: true },
  bezier: { schema: bezierSchema, label: "Bézier", curve: bezier, curved: true },
  hanging: { schema: hangingSchema, label: "Hanging rope", curve: hangingRope, curved: true },
  circle: { schema: circleSchema, label: "Circle", curve: circle },
  ellipse: { schema: ellipseSchema, label: "Ellipse", curve: ellipse },
  arc: { schema: arcSchema, label: "Arc", curve: arc },
  rectangle: { schema: rectangleSchema, label: "Rounded rectangle", curve: rectangle },
  coil: { schema: coilSchema, label: "Coil", curve: coil },
  // Its members run somewhere, see `members.ts`.
  between: { schema: betweenSchema, label: "Between", curve: () => polyline(NOWHERE) },
};

/** The curve of a line of any kind. */
export function curveOf(line: Line): Curve {
  const whole = line.ring && line.kind === "coil" ? wholeTurns(line) : line;
  const curve = LINE_KINDS[line.kind].curve(whole as never);
  return line.ring ? ringed(curve, whole) : curve;
}
