/**
 * *One parameter, defined once.* Each constructor below makes a Zod schema that carries the parameter's default, limits,
 * unit, label and explanation; the fields of the interface, the validation and the documentation all read it from there.
 *
 *     const every = lengthParam({ label: "Every", help: "…", default: 0.5, above: 0, slider: [0.05, 5] });
 *     describeParam(every).label // "Every"
 */
import { z } from "zod";

// Zod would otherwise make functions of text, which the content policy forbids.
z.config({ jitless: true });

/** What a parameter is measured in. The core knows metres, seconds and radians; the interface shows angles in degrees. */
export type Unit = "m" | "s" | "m/s" | "rad" | "share" | "factor" | "whole" | "number";

export interface ParamDescription {
  label: string;
  help: string;
  unit: Unit;
  /** The comfortable range of a slider; the field beside it takes any valid number. */
  slider: readonly [low: number, high: number];
  /** Whether it only holds from one keyframe to the next, since values in between would make something else of it. */
  holds?: boolean;
  /** Whether it says how fast something else changes, so that what it adds up to is what counts. */
  rate?: boolean;
}

interface ParamOptions {
  label: string;
  help: string;
  default: number;
  slider: readonly [low: number, high: number];
  min?: number;
  max?: number;
  above?: number;
  holds?: boolean;
  rate?: boolean;
}

/** A scene reaches so far from its origin, metres: 10,000 km. */
export const FARTHEST = 10_000_000;

/** What no number of a unit goes beyond, to either side, where its parameter says nothing narrower. */
const MOST: Readonly<Record<Unit, number>> = {
  m: FARTHEST,
  s: 1_000_000,
  "m/s": 100_000,
  rad: 1_000_000,
  share: 1_000_000,
  factor: 1_000_000,
  whole: 2 ** 40,
  number: 1_000_000_000,
};

type NumberParam = z.ZodDefault<z.ZodNumber>;
type RangeParam = z.ZodDefault<z.ZodTuple<[z.ZodNumber, z.ZodNumber], null>>;

function limited(
  options: Omit<ParamOptions, "label" | "help" | "slider" | "default" | "holds" | "rate">,
  base = z.number(),
): z.ZodNumber {
  let schema = base;
  if (options.min !== undefined) schema = schema.min(options.min);
  if (options.max !== undefined) schema = schema.max(options.max);
  if (options.above !== undefined) schema = schema.gt(options.above);
  return schema;
}

function numberParam(unit: Unit, options: ParamOptions): NumberParam {
  const { label, help, slider, holds, rate } = options;
  const base = unit === "whole" ? z.number().int() : z.number();
  return limited({ min: -MOST[unit], max: MOST[unit], ...options }, base)
    .default(options.default)
    .meta({ label, help, unit, slider, ...(holds && { holds }), ...(rate && { rate }) });
}

export const lengthParam = (options: ParamOptions) => numberParam("m", options);
export const speedParam = (options: ParamOptions) => numberParam("m/s", options);
export const secondsParam = (options: ParamOptions) => numberParam("s", options);
export const angleParam = (options: ParamOptions) => numberParam("rad", options);
export const shareParam = (options: ParamOptions) => numberParam("share", { min: 0, max: 1, ...options });
export const factorParam = (options: ParamOptions) => numberParam("factor", options);
export const wholeParam = (options: ParamOptions) => numberParam("whole", options);
export const plainParam = (options: ParamOptions) => numberParam("number", options);

/** A range `[low, high]`; the lower end may not lie above the upper one. */
export function rangeParam(
  unit: Unit,
  options: Omit<ParamOptions, "default"> & { default: readonly [number, number] },
): RangeParam {
  const { label, help, slider } = options;
  const end = limited({ min: -MOST[unit], max: MOST[unit], ...options });
  return z
    .tuple([end, end])
    .refine(([low, high]) => low <= high, { error: "the lower end of the range lies above its upper end" })
    .default([...options.default])
    .meta({ label, help, unit, slider });
}

/** The label, explanation, unit and comfortable range of a parameter made by one of the constructors above. */
export function describeParam(schema: z.ZodType): ParamDescription {
  const meta = schema.meta() as ParamDescription | undefined;
  if (!meta?.label) throw new TypeError("This schema is not a parameter: it has no label.");
  return meta;
}

/** Something that is on or off. */
export const switchParam = ({
  label,
  help,
  default: standard = false,
}: {
  label: string;
  help: string;
  default?: boolean;
}) => z.boolean().default(standard).meta({ label, help });

/** A colour as `#rrggbb`. */
export const colourParam = ({ label, help, default: standard }: { label: string; help: string; default: string }) =>
  z
    .string()
    .regex(/^#[0-9a-f]{6}$/i, "a colour is written #rrggbb")
    .default(standard)
    .meta({ label, help });

/** A choice between named ways, with the words that the interface shows for each. */
export function choiceParam<const T extends Record<string, string>>(options: {
  label: string;
  help: string;
  default: keyof T & string;
  choices: T;
}) {
  const names = Object.keys(options.choices) as [keyof T & string, ...(keyof T & string)[]];
  return z
    .enum(names)
    .default(() => options.default as never)
    .meta({ label: options.label, help: options.help, choices: options.choices });
}

export interface ChoiceDescription {
  label: string;
  help: string;
  choices: Readonly<Record<string, string>>;
}

/** The label, explanation and choices of a {@link choiceParam}. */
export const describeChoice = (schema: z.ZodType): ChoiceDescription => schema.meta() as unknown as ChoiceDescription;

/** A position or direction of three finite numbers, in metres where it is a position. */
export const vec3Schema = z.tuple([within(FARTHEST), within(FARTHEST), within(FARTHEST)]).readonly();

/** A number that goes no further than this to either side. */
export function within(most: number): z.ZodNumber {
  return z.number().min(-most).max(most);
}

/** An id: short text that is unique among things of its sort. */
export const idSchema = z.string().min(1).max(80);

/** What something lies on: also a member of a family of lines, whose id begins with that of its family. */
export const hostIdSchema = z.string().min(1).max(120);

/** A name as the artist wrote it. */
export const nameSchema = z.string().trim().min(1, "a name needs at least one letter").max(120);

/** An asset is named by the SHA-256 of its bytes, in hexadecimal; its file is `assets/<hash>.glb`, or `.png` for a picture. */
export const assetHashSchema = z.string().regex(/^[0-9a-f]{64}$/, "an asset is named by 64 hexadecimal digits");

/** Some of an object's properties, in the order in which they are named. */
export const pick = <T extends object, const K extends keyof T>(from: T, keys: readonly K[]): Pick<T, K> =>
  Object.fromEntries(keys.map((key) => [key, from[key]])) as Pick<T, K>;

/** All of an object's properties but one. */
export function omit<T extends object, const K extends keyof T>(from: T, key: K): Omit<T, K> {
  const rest = { ...from };
  delete rest[key];
  return rest;
}
