/** How each of a dressing's props is held, by what its scene knows. */
import { bankOf } from "./bank";
import { stance, type Hold } from "./stance";
import { step } from "../../graph";
import type { Remembering } from "../hosts";
import type { Dressing } from "../schema";
import type { Sources } from "../sources";
import type { Vec3 } from "../../math";
import type { SnapPoint } from "../../tie";
import type { PropChoice } from "../what/what";

const stanceStep = step("stance", stance);

export function held(
  ask: Remembering,
  { stance: params, what: { own }, spacing }: Dressing,
  from: Sources,
  { props }: PropChoice,
): Hold {
  const boxes = props.map((prop) => from.bounds(prop)!);
  const ends =
    spacing.by === "each" && spacing.each === "snaps"
      ? props.map((prop) => endsOf(from.snaps(prop), spacing.eachFrom, spacing.eachTo))
      : null;
  const thing = params.thing === null ? undefined : from.middle(params.thing);
  return ask.step(stanceStep, params, own, props, boxes, thing, bankOf(params, spacing), ends);
}

/** Where two snap points of a prop are; null where it has not both. */
function endsOf(snaps: readonly SnapPoint[], from: string, to: string): [Vec3, Vec3] | null {
  const [a, b] = [from, to].map((name) => snaps.find((one) => one.name === name)?.position);
  return a && b ? [a, b] : null;
}
