/**
 * Step 2, What: which prop a slot takes. The answer depends on the slot's number or key alone, never on how many slots
 * there are, so a longer line leaves its beginning as it was.
 */
import { CHANNEL, drawFrom, hashText, streamOf } from "../../math";
import { NO_PROP } from "../slots";
import { propsIn, type What } from "./schema";

/** Several props in one: a slot that takes it draws one of them by its weight. */
export interface MixOf {
  prop: string;
  weight: number;
}

/** The props and the mixes that a scene has. */
export interface Known {
  props: { has(id: string): boolean };
  mixes: ReadonlyMap<string, readonly MixOf[]>;
}

/**
 * *Chooses props for slots.* `props` are the ids in the order in which a slot's index counts them; indices from
 * `props.length` on stand for mixes until {@link resolveMixes} has drawn from them.
 */
export interface PropChoice {
  readonly props: readonly string[];
  /** What the first, the last and the corner slots of a line take, or null where they take what the others do. */
  readonly first: number | null;
  readonly last: number | null;
  readonly corner: number | null;
  readonly tagged: ReadonlyMap<string, number>;
  /**
   * Writes into `out` the index for each slot from `start` to before `end`, whose numbers rise by one from `number`, by
   * the entries and the one for every nth; {@link NO_PROP} for a blank.
   */
  fill(out: Uint16Array, key: Uint32Array, start: number, end: number, number: number): void;
  /** The index that a prop, or a mix at the slot with this key, comes to; {@link NO_PROP} where the scene has neither. */
  pick(id: string, key: number): number;
  /** Draws a prop wherever a mix was chosen. */
  resolveMixes(out: Uint16Array, key: Uint32Array, start: number, end: number): void;
}

/**
 * @param known says what the scene has; entries for anything else are passed over
 * @param extra props and mixes that pegs ask for
 */
export function what(params: Omit<What, "own">, seed: number, known: Known, extra: readonly string[] = []): PropChoice {
  const named = propsIn(params);
  const mixOf = (id: string): readonly MixOf[] =>
    known.mixes.get(id)?.filter(({ prop }) => known.props.has(prop)) ?? [];
  const mixes = [...new Set([...named, ...extra])].flatMap((id) => {
    const mix = mixOf(id);
    return mix.length > 0 ? [{ id, mix }] : [];
  });
  // What pegs ask for comes behind all else, so that indices stay what they are without it.
  const withMembers = (ids: readonly string[]) => [...ids, ...ids.flatMap(mixOf).map(({ prop }) => prop)];
  const all = [...withMembers(named), ...withMembers(extra)];
  const props = [...new Set(all.filter((id) => known.props.has(id)))];
  const ids = [...props, ...mixes.map(({ id }) => id)];
  const indexOf = (id: string | null): number => (id === null ? NO_PROP : ids.indexOf(id));
  const special = (id: string | null): number | null => (id !== null && ids.includes(id) ? indexOf(id) : null);

  const entries = params.entries.filter(({ prop }) => prop === null || ids.includes(prop));
  const nth = special(params.nthProp);
  const tagged = params.tagged.filter(({ prop }) => prop === null || ids.includes(prop));
  const drawn = mixes.map(
    ({ mix }) =>
      new Draws(
        mix.map(({ prop, weight }) => [props.indexOf(prop), weight]),
        props,
        seed,
        CHANNEL.mix,
      ),
  );
  const entry = inOrder(
    params,
    entries.map((one) => ({ ...one, index: indexOf(one.prop) })),
    ids,
    seed,
  );
  return {
    props,
    first: special(params.first),
    last: special(params.last),
    corner: special(params.corner),
    tagged: new Map(tagged.map(({ tag, prop }) => [tag, indexOf(prop)])),
    fill(out, key, start, end, number) {
      entry(out, key, start, end, number);
      if (nth === null) return;
      // Slot 0 is the first one of its line, so the nth has number n − 1.
      const before = (((number % params.nth) + params.nth) % params.nth) - params.nth + 1;
      for (let i = start - before; i < end; i += params.nth) out[i] = nth;
    },
    pick(id, key) {
      const index = ids.indexOf(id);
      if (index < 0) return NO_PROP;
      return index < props.length ? index : drawn[index - props.length].choose(key, -1, -1);
    },
    resolveMixes(out, key, start, end) {
      if (drawn.length === 0) return;
      for (let i = start; i < end; i++) {
        if (out[i] >= props.length && out[i] !== NO_PROP) out[i] = drawn[out[i] - props.length].choose(key[i], -1, -1);
      }
    },
  };
}

type Indexed = What["entries"][number] & { index: number };

function inOrder(
  params: Omit<What, "own">,
  entries: readonly Indexed[],
  ids: readonly string[],
  seed: number,
): PropChoice["fill"] {
  if (params.order === "sequence") return inSequence(entries.map(({ index, count }) => [index, count]));
  if (params.order === "turn") {
    const back = entries.slice(1, -1).reverse();
    return inSequence([...entries, ...back].map(({ index }) => [index, 1]));
  }
  const draws = new Draws(
    entries.map(({ index, weight }) => [index, weight]),
    ids,
    seed,
    CHANNEL.what,
  );
  return params.noRepeat ? withoutRepeats(draws) : byWeight(draws);
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

  constructor(
    entries: readonly [prop: number, weight: number][],
    props: readonly string[],
    seed: number,
    channel: number,
  ) {
    const live = entries.filter(([, weight]) => weight > 0);
    this.prop = Uint16Array.from(live, ([index]) => index);
    this.#weight = Float64Array.from(live, ([, weight]) => weight);
    // The same prop twice in the list draws twice, by how often it stood there before.
    this.#salt = Int32Array.from(live, ([index], i) => {
      const before = live.slice(0, i).filter(([other]) => other === index).length;
      return hashText(props[index] ?? "") + before;
    });
    this.#stream = streamOf(seed, channel);
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

function byWeight(draws: Draws): PropChoice["fill"] {
  if (draws.prop.length === 0) return none;
  return (out, key, start, end) => {
    for (let i = start; i < end; i++) out[i] = draws.choose(key[i], -1, -1);
  };
}

/**
 * A mix in which no two neighbours are the same. Slots with odd numbers draw freely, those with even ones among what
 * neither of their neighbours drew: so each depends on its neighbours alone, and nothing runs on along the line.
 */
function withoutRepeats(draws: Draws): PropChoice["fill"] {
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
