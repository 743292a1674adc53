/**
 * Step 2, What: which prop a slot takes. The answer depends on the slot's number or key alone, never on how many slots
 * there are, so a longer line leaves its beginning as it was.
 */
import { CHANNEL, drawFrom, hashText, streamOf } from "../../math";
import { NO_PROP } from "../slots";
import type { What } from "./schema";

/** *Chooses props for slots.* `props` are the ids in the order in which a slot's index counts them. */
export interface PropChoice {
  readonly props: readonly string[];
  /**
   * Writes into `out` an index into `props` for each slot from `start` to before `end`, whose numbers rise by one from
   * `number`; {@link NO_PROP} where no prop can be chosen.
   */
  fill(out: Uint16Array, key: Uint32Array, start: number, end: number, number: number): void;
}

/**
 * @param known says which props the scene has; entries for others are passed over
 * @param extra props that pegs ask for, appended to the list
 */
export function what(
  params: What,
  seed: number,
  known: (prop: string) => boolean,
  extra: readonly string[] = [],
): PropChoice {
  const entries = params.entries.filter((entry) => known(entry.prop));
  const props = [...new Set([...entries.map((entry) => entry.prop), ...extra.filter(known)])];
  const fill =
    params.order === "sequence"
      ? inSequence(entries.map((entry) => [props.indexOf(entry.prop), entry.count]))
      : byWeight(
          entries.map((entry) => [props.indexOf(entry.prop), entry.weight]),
          props,
          seed,
        );
  return { props, fill };
}

const none: PropChoice["fill"] = (out, _, start, end) => void out.fill(NO_PROP, start, end);

function inSequence(entries: [prop: number, count: number][]): PropChoice["fill"] {
  const cycle = Uint16Array.from(entries.flatMap(([prop, count]) => new Array<number>(count).fill(prop)));
  if (cycle.length === 0) return none;
  return (out, _, start, end, number) => {
    let turn = ((number % cycle.length) + cycle.length) % cycle.length;
    for (let i = start; i < end; i++) {
      out[i] = cycle[turn];
      if (++turn === cycle.length) turn = 0;
    }
  };
}

/**
 * Weighted rendezvous hashing (C. Schindelhauer and G. Schomaker, *Weighted Distributed Hash Tables*, SPAA 2005): each entry
 * draws −ln(u) / weight for the slot and the least one wins. The shares are exactly the weights', and changing one weight
 * only moves slots to or from that entry.
 */
function byWeight(
  entries: [prop: number, weight: number][],
  props: readonly string[],
  seed: number,
): PropChoice["fill"] {
  const live = entries.filter(([, weight]) => weight > 0);
  const prop = Uint16Array.from(live, ([index]) => index);
  const weight = Float64Array.from(live, ([, w]) => w);
  // The same prop twice in the list draws twice, by how often it stood there before.
  const salt = Int32Array.from(live, ([index], i) => {
    const before = live.slice(0, i).filter(([other]) => other === index).length;
    return hashText(props[index]) + before;
  });
  if (live.length === 0) return none;
  const stream = streamOf(seed, CHANNEL.what);
  return (out, key, start, end) => {
    for (let i = start; i < end; i++) {
      let best = 0;
      let least = Infinity;
      for (let k = 0; k < prop.length; k++) {
        const draw = -Math.log(1 - drawFrom(stream, key[i], salt[k])) / weight[k];
        if (draw < least) {
          least = draw;
          best = k;
        }
      }
      out[i] = prop[best];
    }
  };
}
