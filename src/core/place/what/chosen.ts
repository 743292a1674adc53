/** Which props a dressing has, and which of them a slot takes, by what its scene knows. */
import { propsIn } from "./schema";
import { what, type PropChoice } from "./what";
import { step } from "../../graph";
import { omit } from "../../schema";
import { known, type Sources } from "../sources";
import { kindOf } from "../where/kinds";
import type { Remembering } from "../hosts";
import type { Dressing } from "../schema";

const whatStep = step("what", what);

/** @param swapped props and mixes that pegs ask for besides */
export function chosen(
  ask: Remembering,
  dressing: Dressing,
  from: Sources,
  swapped: readonly string[] = [],
): PropChoice {
  const params = omit(dressing.what, "own");
  // What stands in no row has no neighbour in which the same could come twice.
  if (!kindOf(dressing.where).ordered) params.noRepeat = false;
  const named = [...propsIn(params), ...swapped];
  const mixes = known(named, (id) => from.mix(id));
  const members = [...mixes.values()].flatMap((mix) => mix.map(({ prop }) => prop));
  const props = new Set([...named, ...members].filter((id) => from.bounds(id) !== undefined));
  const seed = params.order === "mixed" || mixes.size > 0 ? dressing.variation.seed : 0;
  return ask.step(whatStep, params, seed, { props, mixes }, swapped);
}
