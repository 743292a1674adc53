/** Random values for anything that has a Zod schema: every parameter there is, without a list of them. */
import type { z } from "zod";
import { drawFrom, streamOf } from "@/core/math";

/** A sequence of draws that is the same for the same seed. */
export class Dice {
  readonly #stream: number;
  #n = 0;

  constructor(seed: number) {
    this.#stream = streamOf(seed, 0);
  }

  /** From 0 to before 1. */
  share(): number {
    return drawFrom(this.#stream, this.#n++, 0);
  }

  chance(share: number): boolean {
    return this.share() < share;
  }

  /** From 0 to before `n`. */
  below(n: number): number {
    return Math.floor(n * this.share());
  }

  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)];
  }
}

/** Texts to choose from, by the name of the field that wants one. */
export type Texts = (field: string) => readonly string[];

/** What is told of a schema, as far as it matters here. */
interface Definition {
  type: string;
  innerType?: z.ZodType;
  in?: z.ZodType;
  element?: z.ZodType;
  items?: z.ZodType[];
  options?: z.ZodType[];
  shape?: Record<string, z.ZodType>;
  entries?: Record<string, string>;
  values?: unknown[];
  defaultValue?: unknown;
}

const definitionOf = (schema: z.ZodType): Definition => schema.def as unknown as Definition;
const TRIES = 20;
const MOST_ITEMS = 3;

/** A value that the schema takes; the one that it stands at now and then. */
export function valueFor(schema: z.ZodType, field: string, dice: Dice, texts: Texts): unknown {
  for (let k = 0; k < TRIES; k++) {
    const { success, data } = schema.safeParse(draw(schema, field, dice, texts, null));
    if (success) return data;
  }
  return schema.parse(undefined);
}

type Slider = readonly [number, number];

function draw(schema: z.ZodType, field: string, dice: Dice, texts: Texts, slider: Slider | null): unknown {
  const def = definitionOf(schema);
  const own = (schema.meta() as { slider?: Slider } | undefined)?.slider ?? slider;
  const inner = (name = field) => draw(def.innerType!, name, dice, texts, own);
  switch (def.type) {
    case "default":
    case "prefault":
      return dice.chance(0.15) ? undefined : inner();
    case "nullable":
      return dice.chance(0.3) ? null : inner();
    case "optional":
      return dice.chance(0.5) ? undefined : inner();
    case "pipe":
      return draw(def.in!, field, dice, texts, own);
    case "readonly":
      return inner();
    case "boolean":
      return dice.chance(0.5);
    case "enum":
      return dice.pick(Object.values(def.entries!));
    case "literal":
      return def.values![0];
    case "number":
      return number(schema as z.ZodNumber, dice, own);
    case "string":
      return dice.pick(texts(field));
    case "array":
      return Array.from({ length: dice.below(MOST_ITEMS + 1) }, () => draw(def.element!, field, dice, texts, own));
    case "tuple":
      return inRisingOrder(def.items!.map((item) => draw(item, field, dice, texts, own)));
    case "union":
      return draw(dice.pick(def.options!), field, dice, texts, own);
    case "object":
      return Object.fromEntries(
        Object.entries(def.shape!).map(([name, part]) => [name, draw(part, name, dice, texts, null)]),
      );
    default:
      throw new TypeError(`There is no way yet to draw a value of type “${def.type}”.`);
  }
}

function number(schema: z.ZodNumber, dice: Dice, slider: Slider | null): number {
  const [low, high] = slider ?? [Math.max(-4, schema.minValue ?? -4), Math.min(4, schema.maxValue ?? 4)];
  // Round numbers, and the ends themselves, are where special cases lie.
  const share = dice.pick([0, 1, 0.5, dice.share(), dice.share(), dice.share()]);
  const value = low + share * (high - low);
  const rounded = dice.chance(0.3) ? Math.round(value) : value;
  return schema.safeParse(rounded).success ? rounded : Math.ceil(value);
}

/** Most pairs are ranges. */
const inRisingOrder = (values: unknown[]): unknown[] =>
  values.length === 2 && values.every((value) => typeof value === "number")
    ? [...(values as number[])].sort((a, b) => a - b)
    : values;
