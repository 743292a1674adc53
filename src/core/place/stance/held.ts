/** How each of a dressing's props is held, by what its scene knows. */
import { bankOf } from "./bank";
import { stance, type Hold } from "./stance";
import { step } from "../../graph";
import type { Remembering } from "../hosts";
import type { Dressing } from "../schema";
import type { Sources } from "../sources";
import type { PropChoice } from "../what/what";

const stanceStep = step("stance", stance);

export function held(
  ask: Remembering,
  { stance: params, what: { own }, spacing }: Dressing,
  from: Sources,
  { props }: PropChoice,
): Hold {
  const boxes = props.map((prop) => from.bounds(prop)!);
  const thing = params.thing === null ? undefined : from.middle(params.thing);
  return ask.step(stanceStep, params, own, props, boxes, thing, bankOf(params, spacing));
}
