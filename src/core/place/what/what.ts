/**
 * Step 2, What: which prop a slot takes. The answer depends on the slot's number or key alone, never on how many slots
 * there are, so a longer line leaves its beginning as it was.
 */
import { CHANNEL, drawFrom, hashText, streamOf } from "../../math";
import { NO_PROP } from "../slots";
import { propsIn, type What } from "./schema";

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
  const isKnown = (prop: string | null) => prop === null || known(prop);
  const entries = params.entries.filter((entry) => isKnown(entry.prop));
  const props = [...new Set([...propsIn(params), ...extra].filter(known))];
  const indexOf = (prop: string | null) => (prop === null ? NO_PROP : props.indexOf(prop));
  const weights = (): [number, number][] => entries.map((entry) => [indexOf(entry.prop), entry.weight]);
  const fill =
    params.order === "sequence"
      ? inSequence(entries.map((entry) => [indexOf(entry.prop), entry.count]))
      : params.noRepeat
        ? withoutRepeats(weights(), props, seed)
        : byWeight(weights(), props, seed);
  const special = (prop: string | null) => (prop !== null && known(prop) ? props.indexOf(prop) : null);
  const [first, last, nth] = [special(params.first), special(params.last), special(params.nthProp)];
  if (first === null && last === null && nth === null) return { props, fill };
  return {
    props,
    fill(out, key, start, end, number) {
      fill(out, key, start, end, number);
      // Slot 0 is the first one of its line, so the nth has number n − 1.
      const before = (((number % params.nth) + params.nth) % params.nth) - params.nth + 1;
      if (nth !== null) for (let i = start - before; i < end; i += params.nth) out[i] = nth;
      if (first !== null && start < end) out[start] = first;
      if (last !== null && start < end) out[end - 1] = last;
    },
  };
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

/** The draws of a mix: for each slot's key every entry draws, and the least one wins. */
class Draws {
  readonly prop: Uint16Array;
  readonly #weight: Float64Array;
  readonly #salt: Int32Array;
  readonly #stream: number;

  constructor(entries: readonly [prop: number, weight: number][], props: readonly string[], seed: number) {
    const live = entries.filter(([, weight]) => weight > 0);
    this.prop = Uint16Array.from(live, ([index]) => index);
    this.#weight = Float64Array.from(live, ([, weight]) => weight);
    // The same prop twice in the list draws twice, by how often it stood there before.
    this.#salt = Int32Array.from(live, ([index], i) => {
      const before = live.slice(0, i).filter(([other]) => other === index).length;
      return hashText(props[index] ?? "") + before;
    });
    this.#stream = streamOf(seed, CHANNEL.what);
  }

  /**
   * The prop for a key, neither of the two others being allowed (-1 for no restriction).
   *
   * Weighted rendezvous hashing (C. Schindelhauer and G. Schomaker, *Weighted Distributed Hash Tables*, SPAA 2005): each
   * entry draws −ln(u) / weight and the least one wins. The shares are exactly the weights', and changing one weight only
   * moves slots to or from that entry.
   */
  choose(key: number, not: number, norThis: number): number {
    const { prop } = this;
    let best = NO_PROP;
    let least = Infinity;
    for (let k = 0; k < prop.length; k++) {
      if (prop[k] === not || prop[k] === norThis) continue;
      const draw = -Math.log(1 - drawFrom(this.#stream, key, this.#salt[k])) / this.#weight[k];
      if (draw < least) {
        least = draw;
        best = prop[k];
      }
    }
    return best;
  }
}

function byWeight(
  entries: readonly [prop: number, weight: number][],
  props: readonly string[],
  seed: number,
): PropChoice["fill"] {
  const draws = new Draws(entries, props, seed);
  if (draws.prop.length === 0) return none;
  return (out, key, start, end) => {
    for (let i = start; i < end; i++) out[i] = draws.choose(key[i], -1, -1);
  };
}

/**
 * A mix in which no two neighbours are the same. Slots with odd numbers draw freely, those with even ones among what
 * neither of their neighbours took: so each depends on its neighbours alone, and nothing runs on along the line.
 */
function withoutRepeats(
  entries: readonly [prop: number, weight: number][],
  props: readonly string[],
  seed: number,
): PropChoice["fill"] {
  const draws = new Draws(entries, props, seed);
  const distinct = [...new Set(draws.prop)];
  if (distinct.length < 3) return inSequence(distinct.map((prop) => [prop, 1]));
  return (out, key, start, end, number) => {
    for (let i = start; i < end; i++) {
      const free = ((number + i - start) & 1) !== 0;
      const before = free ? -1 : draws.choose(key[i] - 1, -1, -1);
      const after = free ? -1 : draws.choose(key[i] + 1, -1, -1);
      out[i] = draws.choose(key[i], before, after);
    }
  };
}
