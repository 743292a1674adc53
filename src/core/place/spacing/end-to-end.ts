/**
 * End to end: each prop takes its own length of line, both its ends lying on it, and the next one begins where it ends, or
 * a gap later. On a curve a prop is a chord, so every end is solved for.
 */
import { ChordFinder, LEAST_STEP, TOGETHER } from "../../line";
import { FIRST_ROW } from "../keys";
import { NO_PROP } from "../slots";
import { NO_ROW, SLACK, type RowInput, type Row, type SpacingRule } from "./row";

/** A chain of one line holds at most so many props. */
const MAX_LINKS = FIRST_ROW.max + 1;
/** The gap or the stretch that fills a line is found to this share of its length. */
const EXACT = 1e-10;
const MAX_TRIES = 60;

export const endToEnd: SpacingRule = (ground, params) => {
  const { usable } = ground;
  const end = usable.from + usable.length;
  // What fills an open line from end to end cannot slide.
  const filled = (params.remainder === "shared" || params.remainder === "stretched") && !usable.round;
  const slide = filled ? 0 : params.slide;
  const start = usable.from + slide;
  const natural = chain(ground, start, params.gap, 1, ground.clip && params.remainder === "end" ? "past" : "within");
  const fill = params.remainder;
  if (natural.count === 0 || fill === "end") return rowOf(ground, natural, slide, params.gap);

  if (fill === "centred" && !usable.round) {
    // Where the line bends the chain's length depends on where it begins: a few steps settle that.
    let lead = 0;
    let links = natural;
    for (let i = 0; i < 12; i++) {
      const left = end + lead - links.end;
      if (Math.abs(left / 2 - lead) <= EXACT * usable.length) break;
      lead = left / 2;
      links = chain(ground, start + lead, params.gap, 1, natural.count);
    }
    return rowOf(ground, links, slide, params.gap);
  }
  if (fill === "stretched") {
    const long = chain(ground, start, params.gap, 1, natural.count + 1);
    const target = targetOf(ground, slide);
    const more = long.count > natural.count && long.end - target < target - natural.end;
    const count = more ? long.count : natural.count;
    const factor = solve(
      1,
      usable.length,
      (k) => filledTo(chain(ground, start, params.gap, k, count), ground) - target,
    );
    return { ...rowOf(ground, chain(ground, start, params.gap, factor, count), 0, params.gap), stretch: factor };
  }
  if (fill === "shared" && (natural.count > 1 || usable.round)) {
    const target = targetOf(ground, slide);
    const gap = solve(
      params.gap,
      usable.length,
      (g) => filledTo(chain(ground, start, g, 1, natural.count), ground) - target,
    );
    return rowOf(ground, chain(ground, start, gap, 1, natural.count), 0, gap);
  }
  return rowOf(ground, natural, slide, params.gap);
};

/** Where a chain that fills its line ends: round a closed line, where it began. */
const targetOf = ({ usable }: RowInput, slide: number): number =>
  usable.from + usable.length + (usable.round ? slide : 0);

/** *Links of a chain*: where each begins and ends, and its prop. It grows as links are added. */
class Chain {
  count = 0;
  /** Where the next one would begin. */
  next = 0;
  #spans = new Float64Array(512);
  #props = new Uint16Array(256);

  /** Adds `n` links: where each begins and ends, two numbers a link, and their props. */
  add(spans: Float64Array, props: Uint16Array, n: number): void {
    const wanted = this.count + n;
    if (wanted > this.#props.length) {
      const [moreSpans, moreProps] = [new Float64Array(4 * wanted), new Uint16Array(2 * wanted)];
      moreSpans.set(this.#spans);
      moreProps.set(this.#props);
      [this.#spans, this.#props] = [moreSpans, moreProps];
    }
    this.#spans.set(spans.subarray(0, 2 * n), 2 * this.count);
    this.#props.set(props.subarray(0, n), this.count);
    this.count = wanted;
  }

  /** Arc lengths: 2n. */
  get spans(): Float64Array {
    return this.#spans.subarray(0, 2 * this.count);
  }

  get props(): Uint16Array {
    return this.#props.subarray(0, this.count);
  }

  /** Where the last link ends. */
  get end(): number {
    return this.count > 0 ? this.#spans[2 * this.count - 1] : this.next;
  }
}

/**
 * Links from `start` on, with props `stretch` times as long.
 *
 * @param until stop at the last one that ends within the line, or take one more that sticks out past it, or make so many
 */
function chain(
  { line, usable, supply, bent }: RowInput,
  start: number,
  gap: number,
  stretch: number,
  until: "within" | "past" | number,
): Chain {
  const chords = new ChordFinder(line);
  const end = usable.from + usable.length + (usable.round ? start - usable.from : 0);
  const links = new Chain();
  const fixed = typeof until === "number";
  const most = fixed ? until : MAX_LINKS;
  const props = new Uint16Array(TOGETHER);
  const rooms = new Float64Array(TOGETHER);
  const spans = new Float64Array(2 * TOGETHER);
  let room = supply.blank * stretch;
  let from = start;
  let open = true;
  while (open && links.count < most) {
    const wanted = supply.byPlace ? 1 : Math.min(TOGETHER, most - links.count);
    supply.fill(props, wanted, links.count, from);
    if (links.count === 0 && supply.first !== null) props[0] = supply.first;
    if (fixed && links.count + wanted === until && supply.last !== null) props[wanted - 1] = supply.last;
    for (let k = 0; k < wanted; k++) {
      // A blank takes as much room as the prop before it.
      if (props[k] !== NO_PROP) room = supply.lengths[props[k]] * stretch;
      rooms[k] = room;
    }
    let found = bent ? arcs(from, rooms, wanted, gap, spans) : chords.together(from, rooms, wanted, gap, spans);
    if (found === 0) {
      spans[0] = from;
      spans[1] = chords.next(from, rooms[0], 4 * line.length + rooms[0]);
      found = spans[1] === spans[1] ? 1 : 0;
    }
    // Those that end within the line; and the one that sticks out past its end, where that is wanted.
    let kept = 0;
    while (kept < found && (fixed || spans[2 * kept + 1] <= end + SLACK * rooms[kept])) kept++;
    open = found > 0 && kept === found;
    if (kept < found && until === "past" && !usable.round && spans[2 * kept] < end - SLACK * rooms[kept]) kept++;
    if (kept === 0) break;
    links.add(spans, props, kept);
    room = rooms[kept - 1];
    from = Math.max(spans[2 * kept - 1] + gap, spans[2 * kept - 2] + LEAST_STEP * room);
  }
  links.next = from;
  return links;
}

/** Spans one behind the other, each of the length of line that its prop has. */
function arcs(start: number, rooms: Float64Array, n: number, gap: number, spans: Float64Array): number {
  for (let k = 0, from = start; k < n; k++) {
    spans[2 * k] = from;
    spans[2 * k + 1] = from + rooms[k];
    from = Math.max(spans[2 * k + 1] + gap, from + LEAST_STEP * rooms[k]);
  }
  return n;
}

/** How far a chain fills its line: to its last link's end or, round a closed line, to where the next would begin. */
const filledTo = (links: Chain, { usable }: RowInput): number => (usable.round ? links.next : links.end);

/** The links as a row; those that a slide brings in at the front are numbered below zero. */
function rowOf(ground: RowInput, links: Chain, slide: number, gap: number): Row {
  const { usable, supply } = ground;
  const before = !usable.round && slide > 0 && links.count > 0 ? linksBefore(ground, links, gap) : new Chain();
  const slack = SLACK * Math.max(usable.length, 1e-3);
  let gone = 0;
  if (!usable.round && slide < 0) while (gone < links.count && links.spans[2 * gone] < usable.from - slack) gone++;

  const { spans, props } = joined(before, links, gone);
  const count = supply.last === null ? props.length : withLast(ground, spans, props, supply.last);
  const places = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const [start, end] = [spans[2 * i], spans[2 * i + 1]];
    // What is bent meets the line where it meets it; what is stiff has both its ends there, and its place is in between.
    const share = ground.bent && props[i] !== NO_PROP ? supply.behind[props[i]] / supply.lengths[props[i]] : 0.5;
    places[i] = start + share * (end - start);
  }
  const wanted = links.count === MAX_LINKS ? count + 1 : count;
  const kept = ground.bent ? null : spans.subarray(0, 2 * count);
  return { ...NO_ROW, from: gone - before.count, count, places, spans: kept, props: props.subarray(0, count), wanted };
}

/** The links without the first few that are gone, and in front of them those that were found from the first one back. */
function joined(before: Chain, links: Chain, gone: number): { spans: Float64Array; props: Uint16Array } {
  const kept = { spans: links.spans.subarray(2 * gone), props: links.props.subarray(gone) };
  const n = before.count;
  if (n === 0) return kept;
  const spans = new Float64Array(2 * n + kept.spans.length);
  const props = new Uint16Array(n + kept.props.length);
  for (let i = 0; i < n; i++) {
    const k = n - 1 - i;
    spans[2 * i] = before.spans[2 * k];
    spans[2 * i + 1] = before.spans[2 * k + 1];
    props[i] = before.props[k];
  }
  spans.set(kept.spans, 2 * n);
  props.set(kept.props, n);
  return { spans, props };
}

/** The links that come to lie in front of a chain's first one, from there back to the line's start. */
function linksBefore({ usable, supply, line, bent }: RowInput, links: Chain, gap: number): Chain {
  const chords = new ChordFinder(line);
  const before = new Chain();
  const [prop, span] = [new Uint16Array(1), new Float64Array(2)];
  let room = supply.lengths[links.props[0]] ?? supply.blank;
  let to = links.spans[0] - gap;
  for (let number = -1; before.count < MAX_LINKS && number >= FIRST_ROW.min; number--) {
    supply.fill(prop, 1, number, to);
    if (prop[0] !== NO_PROP) room = supply.lengths[prop[0]];
    span[0] = bent ? to - room : chords.next(to, room, line.length + room, -1);
    span[1] = to;
    if (!(span[0] >= usable.from - SLACK * room)) break;
    before.add(span, prop, 1);
    to = Math.min(span[0] - gap, to - LEAST_STEP * room);
  }
  return before;
}

/**
 * Lets the last link be the prop that was asked for it: from where that link begins or, where it would reach past the end,
 * from where the one before it does, and so on. Says how many links there are then.
 */
function withLast(
  { line, usable, supply, clip, bent }: RowInput,
  spans: Float64Array,
  props: Uint16Array,
  last: number,
): number {
  const room = supply.lengths[last];
  const end = (usable.from + usable.length) * (1 + SLACK);
  const chords = new ChordFinder(line);
  if (props[props.length - 1] === last) return props.length;
  for (let k = props.length - 1; k >= 0; k--) {
    const from = spans[2 * k];
    const to = bent ? from + room : chords.next(from, room, 4 * line.length);
    if (!(to <= end || clip)) continue;
    spans[2 * k + 1] = to;
    props[k] = last;
    return k + 1;
  }
  return props.length;
}

/** A root of a rising function near `start`, by the secant method held within a bracket; `f` is in metres of `length`. */
function solve(start: number, length: number, f: (x: number) => number): number {
  let [a, fa] = [start, f(start)];
  if (Math.abs(fa) <= EXACT * length) return a;
  let step = 0.01 * Math.max(1e-3, Math.abs(start));
  let b = a - Math.sign(fa) * step;
  let fb = f(b);
  for (let i = 0; i < MAX_TRIES && fa * fb > 0; i++) {
    [a, fa] = [b, fb];
    step *= 2;
    b -= Math.sign(fb) * step;
    fb = f(b);
  }
  // Where a line bends so sharply that no chord fills it, things stay as they are.
  if (!(fa * fb <= 0)) return start;
  // The Illinois form of the false position: the end that stays put counts half, so that both ends move.
  for (let i = 0; i < MAX_TRIES && Math.abs(fb) > EXACT * length && fb !== fa; i++) {
    const x = b - (fb * (b - a)) / (fb - fa);
    const fx = f(x);
    if (!Number.isFinite(fx)) break;
    if (fx * fb < 0) [a, fa] = [b, fb];
    else fa /= 2;
    [b, fb] = [x, fx];
  }
  return b;
}
