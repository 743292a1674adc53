/**
 * *A hand that sows*: it is led over surfaces, and what it has not been over yet comes to be full of places: as a Poisson process,
 * or the more even the farther they have to keep from each other and from what stands there already.
 *
 *     const hand = new SowingHand(7, standing, cast);
 *     hand.lead([0, 0, 0], [0, 1, 0], { radius: 1.5, distance: 0.5, even: 0.8 }); // about 28 places
 */
import {
  add,
  anyPerpendicular,
  CHANNEL,
  cross,
  distance,
  dot,
  drawFrom,
  normalize,
  scale,
  streamOf,
  subtract,
  type Vec3,
} from "../../math";
import { PointGrid } from "../../mesh";

/** How wide a hand is and how it sows. */
export interface HandSize {
  /** Metres. */
  radius: number;
  /** There is one for each square of so many metres. */
  distance: number;
  /** From 0, wherever they fall, to 1, as far from each other as there is room for. */
  even: number;
}

/** What is met from a place in a direction, no farther than so many metres; null where there is nothing to sow on. */
export type Cast = (from: Vec3, direction: Vec3, far: number) => Met | null;

interface Met {
  /** The surface's id. */
  on: string;
  point: Vec3;
  /** Unit. */
  normal: Vec3;
}

/** Places that fill a surface without any being nearer than a distance come to one for 1.2² squares of it (A. Rényi's parking, in the plane). */
const FULL = 0.834;
/** A place that has no room is looked for again so often. */
const TRIES = 24;
/** The hand is led in steps of so much of its radius, and in no more than so many at once. */
const STEP = 0.5;
const MOST_STEPS = 48;
/** In one step no more than so many are tried, and after so many rays the hand goes on at the next call, from where it is. */
const MOST_A_STEP = 4000;
const MOST_RAYS = 16_000;
/** Where a surface leans away from the hand by more than this cosine, it counts as leaning by that. */
const STEEP = 0.5;
/** What shows its side or its back is not sown on. */
const AWAY = 0.1;

/** Where a hand is held: at a place of a surface, square to it. */
interface Held {
  at: Vec3;
  normal: Vec3;
}

export class SowingHand {
  readonly #stream: number;
  readonly #cast: Cast;
  #drawn = 0;
  #rays = 0;
  /** Where it has been, and how wide it was there. */
  readonly #been: (Held & { radius: number })[] = [];
  #last: Held | null = null;
  readonly #taken: PointGrid;
  #apart = 0;

  /**
   * @param seed another for each stroke
   * @param standing where something stands already: metres, 3n
   */
  constructor(seed: number, standing: ArrayLike<number>, cast: Cast) {
    this.#stream = streamOf(seed, CHANNEL.sow);
    this.#cast = (...ray) => {
      this.#rays++;
      return cast(...ray);
    };
    this.#taken = new PointGrid(Math.max(64, standing.length / 3));
    for (let p = 0; p + 2 < standing.length; p += 3) this.#taken.push(standing[p], standing[p + 1], standing[p + 2]);
  }

  /** Leads it to a place of a surface, with the unit normal there; gives what it sows on the way. */
  lead(at: Vec3, normal: Vec3, size: HandSize): { on: string; point: Vec3 }[] {
    const from = this.#last;
    const steps = from ? Math.min(MOST_STEPS, Math.floor(distance(from.at, at) / (STEP * size.radius))) : 1;
    if (!(steps > 0)) return [];
    this.#rays = 0;
    const out: { on: string; point: Vec3 }[] = [];
    for (let k = 1; k <= steps && this.#rays < MOST_RAYS; k++) {
      const here = from && k < steps ? this.#between(from, { at, normal }, k / steps, size.radius) : { at, normal };
      if (!here) continue;
      this.#sow(here.at, here.normal, size, out);
      this.#last = here;
    }
    return out;
  }

  /** Where the hand is on its way from one place to another: on the surface there, which need not go straight between them. */
  #between(from: Held, to: Held, share: number, radius: number): Held | null {
    const mixed = (a: Vec3, b: Vec3): Vec3 => add(scale(a, 1 - share), scale(b, share));
    const up = normalize(mixed(from.normal, to.normal), from.normal);
    const reach = Math.max(radius, distance(from.at, to.at) / 2);
    const met = this.#cast(add(mixed(from.at, to.at), scale(up, reach)), scale(up, -1), 2 * reach);
    return met && { at: met.point, normal: met.normal };
  }

  #sow(at: Vec3, normal: Vec3, { radius, distance: apart, even }: HandSize, out: { on: string; point: Vec3 }[]): void {
    const least = FULL * Math.max(0, Math.min(1, even)) * apart;
    this.#keepApart(least);
    const left = anyPerpendicular(normal);
    const ahead = cross(left, normal);
    const wanted = Math.min(MOST_A_STEP, wantedBy({ radius, distance: apart }));
    // So many as arrive at random in so much time.
    for (let time = this.#wait(); time < wanted && this.#rays < 2 * MOST_RAYS; time += this.#wait()) {
      for (let tries = 0; tries < (least > 0 ? TRIES : 1); tries++) {
        const [far, way] = [radius * Math.sqrt(this.#draw()), 2 * Math.PI * this.#draw()];
        const aside = add(scale(left, far * Math.cos(way)), scale(ahead, far * Math.sin(way)));
        const met = this.#cast(add(add(at, aside), scale(normal, radius)), scale(normal, -1), 2 * radius);
        const facing = met ? dot(met.normal, normal) : 0;
        const beside = !met || facing < AWAY || this.#been.some((one) => wasUnder(met.point, one));
        // A slope has more of itself under the hand than it shows.
        if (tries === 0 && (beside || this.#draw() * Math.max(STEEP, facing) > STEEP)) break;
        if (beside || !this.#isFree(met.point, least)) continue;
        this.#put(met, out);
        break;
      }
    }
    // A hand that is narrow for what it sows puts down one where it begins, rather than most often none.
    const met = this.#been.length === 0 && out.length === 0 ? this.#cast(add(at, scale(normal, radius)), scale(normal, -1), 2 * radius) : null; // prettier-ignore
    if (met && this.#isFree(met.point, least)) this.#put(met, out);
    this.#been.push({ at, normal, radius });
  }

  #put({ on, point }: Met, out: { on: string; point: Vec3 }[]): void {
    this.#taken.add(...point);
    out.push({ on, point });
  }

  #keepApart(least: number): void {
    const size = Math.max(2 * least, 1e-3);
    if (size !== this.#apart) this.#taken.resize((this.#apart = size), this.#taken.count + 1000);
  }

  #isFree = (point: Vec3, least: number): boolean => !(least > 0) || this.#taken.isFree(...point, least);

  #draw = (): number => drawFrom(this.#stream, this.#drawn++, 0);
  #wait = (): number => -Math.log(1 - this.#draw());
}

/** How many are to be tried under a hand, since a slope has up to twice as much of itself there as it shows. */
const wantedBy = ({ radius, distance: apart }: Pick<HandSize, "radius" | "distance">): number =>
  (Math.PI * radius * radius) / (apart * apart) / STEEP;

/** Whether a hand is so wide for how dense it sows that it sows less than that. */
export const sowsLess = (size: Pick<HandSize, "radius" | "distance">): boolean => wantedBy(size) > MOST_A_STEP;

/** Whether a point lies below or above a hand, within its reach. */
function wasUnder(point: Vec3, { at, normal, radius }: Held & { radius: number }): boolean {
  const way = subtract(point, at);
  const high = dot(way, normal);
  return Math.abs(high) <= radius && dot(way, way) - high * high <= radius * radius;
}
