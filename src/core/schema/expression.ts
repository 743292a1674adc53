/**
 * What an artist may type into a number field: numbers with units, and arithmetic.
 *
 *     evaluateExpression("2 * 0.45 m", "m")   // 0.9
 *     evaluateExpression("30 cm", "m")        // 0.3
 *     evaluateExpression("1/3", "number")     // 0.333…
 *     evaluateExpression("90°", "rad")        // 1.5707…, and so does "90": angles are typed in degrees
 */
import { InputError } from "./errors";
import type { Unit } from "./param";

/** Factors to metres and radians. A bare number is in metres, degrees or hundredths, by what the field is for. */
const LENGTHS: Readonly<Record<string, number>> = { m: 1, cm: 0.01, mm: 0.001, km: 1000, in: 0.0254, ft: 0.3048 };
const DEGREE = Math.PI / 180;
const ANGLES: Readonly<Record<string, number>> = {
  "°": DEGREE,
  deg: DEGREE,
  rad: 1,
  turn: 2 * Math.PI,
  turns: 2 * Math.PI,
};
const TIMES: Readonly<Record<string, number>> = { s: 1, ms: 0.001, min: 60 };
const SHARES: Readonly<Record<string, number>> = { "%": 0.01 };

interface Measure {
  units: Readonly<Record<string, number>>;
  bare: number;
  words: string;
}

const MEASURES: Readonly<Record<Unit, Measure>> = {
  m: { units: LENGTHS, bare: 1, words: "a length such as 0.45, 45 cm or 2 * 0.3 m" },
  s: { units: TIMES, bare: 1, words: "a time such as 2.5, 500 ms or 1 min" },
  "m/s": { units: LENGTHS, bare: 1, words: "a speed such as 0.5, 50 cm/s or 3 m/s" },
  rad: { units: ANGLES, bare: DEGREE, words: "an angle such as 12, 90° or 180/7" },
  share: { units: SHARES, bare: 0.01, words: "a percentage such as 8 or 100/12" },
  factor: { units: { ...SHARES, "×": 1, x: 1 }, bare: 1, words: "a factor such as 1.2 or 110 %" },
  whole: { units: {}, bare: 1, words: "a whole number such as 12" },
  number: { units: {}, bare: 1, words: "a number such as 2.5 or 1/3" },
};

const MAX_LENGTH = 200;

/** A value while it is computed: how many units have been multiplied into it tells whether it is a measure yet. */
interface Value {
  value: number;
  dimension: number;
}

/**
 * The value of `text` in metres, radians, a share of one, or plainly.
 *
 * @throws InputError when it is no number, names another unit, or divides by zero
 */
export function evaluateExpression(text: string, unit: Unit): number {
  const measure = MEASURES[unit];
  const refuse = (why: string): never => {
    throw new InputError(`“${text.trim().slice(0, 40)}” ${why}: write ${measure.words}.`);
  };
  if (text.length > MAX_LENGTH) refuse("is too long");
  // A speed is written as a length, to the second.
  const written = unit === "m/s" ? text.replace(/\/\s*s\s*$/i, "") : text;
  const tokens =
    written.replaceAll("−", "-").match(/\d[\d\u202f']*(?:[.,]\d+)?(?:e[+-]?\d+)?|[.,]\d+|[a-zµ]+|[°%×()+\-*/]|\S/gi) ??
    [];
  let next = 0;

  const sum = (): Value => {
    let left = product();
    while (tokens[next] === "+" || tokens[next] === "-") {
      const sign = tokens[next++] === "+" ? 1 : -1;
      const right = product();
      // 2 m + 3: the bare number is in the field's own unit.
      const [a, b] = left.dimension === right.dimension ? [left.value, right.value] : [settled(left), settled(right)];
      const dimension = Math.max(left.dimension, right.dimension);
      left = { value: a + sign * b, dimension };
    }
    return left;
  };

  const product = (): Value => {
    let left = factor();
    for (;;) {
      const operator = tokens[next];
      if (operator !== "*" && operator !== "/" && !(operator === "×" && startsFactor(tokens[next + 1]))) return left;
      next++;
      const right = factor();
      if (operator === "/") {
        if (right.value === 0) refuse("divides by zero");
        left = { value: left.value / right.value, dimension: left.dimension - right.dimension };
      } else left = { value: left.value * right.value, dimension: left.dimension + right.dimension };
    }
  };

  const factor = (): Value => {
    const token = tokens[next];
    if (token === "-" || token === "+") {
      next++;
      const { value, dimension } = factor();
      return { value: token === "-" ? -value : value, dimension };
    }
    let value: Value;
    if (token === "(") {
      next++;
      value = sum();
      if (tokens[next++] !== ")") refuse("has a bracket that is not closed");
    } else if (token !== undefined && /\d/.test(token)) {
      next++;
      // Some write thousands so and some decimals.
      if (/^[1-9]\d{0,2},\d{3}$/.test(token)) {
        const [whole, rest] = token.split(",");
        throw new InputError(
          `“${token}” can be read as ${whole}${rest} or as ${whole}.${rest}: write the one that you mean, without a comma.`,
        );
      }
      value = { value: Number(token.replace(/[\u202f']/g, "").replace(",", ".")), dimension: 0 };
    } else return refuse(token === undefined ? "is not finished" : "is not a number");
    const suffix = tokens[next];
    if (
      suffix !== undefined &&
      Object.hasOwn(measure.units, suffix) &&
      !(suffix === "×" && startsFactor(tokens[next + 1]))
    ) {
      next++;
      return { value: value.value * measure.units[suffix], dimension: value.dimension + 1 };
    }
    if (suffix !== undefined && /^[a-zµ°%]/i.test(suffix)) refuse(`has “${suffix}” in it, which is no unit here`);
    return value;
  };

  const settled = ({ value, dimension }: Value): number => (dimension === 0 ? value * measure.bare : value);

  if (tokens.length === 0) refuse("is empty");
  const result = sum();
  if (next < tokens.length) refuse("is not a number");
  if (result.dimension > 1 || result.dimension < 0) refuse("multiplies or divides units");
  const value = settled(result);
  if (!Number.isFinite(value)) refuse("is too large");
  return value;
}

const startsFactor = (token: string | undefined): boolean => token !== undefined && /^[\d.,(]/.test(token);

/** A value as a field shows it: few digits, its unit behind. The inverse of {@link evaluateExpression} up to rounding. */
export function formatValue(value: number, unit: Unit): string {
  switch (unit) {
    case "m":
      return `${trimmed(value, Math.abs(value) < 1 ? 4 : 3, 2)} m`;
    case "m/s":
      return `${trimmed(value, 3, 2)} m/s`;
    case "s":
      return `${trimmed(value, 3, 2)} s`;
    case "rad":
      return `${trimmed(value / DEGREE, 2, 0)}°`;
    case "share":
      return `${trimmed(value * 100, 2, 0)} %`;
    case "factor":
      return `${trimmed(value, 3, 2)} ×`;
    case "whole":
    case "number":
      return trimmed(value, 4, 0);
  }
}

/** At most `most` decimals and at least `least`. */
function trimmed(value: number, most: number, least: number): string {
  const text = value.toFixed(most);
  const keep = text.length - (most - least);
  let end = text.length;
  while (end > keep && text[end - 1] === "0") end--;
  if (text[end - 1] === ".") end--;
  const short = text.slice(0, end);
  return Number(short) === 0 ? short.replace("-", "") : short;
}
