/** How a number is changed by keys, by dragging and by typing, apart from the field that shows it. */
import { evaluateExpression, InputError, type Unit } from "@/core/schema";

/** What a step of the arrow keys, and two pixels of dragging, amounts to. */
export const STEPS: Readonly<Record<Unit, number>> = {
  m: 0.01,
  s: 0.1,
  "m/s": 0.1,
  rad: Math.PI / 180,
  share: 0.01,
  factor: 0.01,
  whole: 1,
  number: 0.1,
};

interface Keys {
  shiftKey: boolean;
  altKey: boolean;
}

/** The value so many steps on: ten times as far with Shift, a tenth as far with Alt, where there are tenths. */
export function stepped(value: number, unit: Unit, steps: number, { shiftKey, altKey }: Keys): number {
  const factor = shiftKey ? 10 : altKey && unit !== "whole" ? 0.1 : 1;
  return Number((value + steps * STEPS[unit] * factor).toFixed(9));
}

/** A value in the unit that it is shown in: angles in degrees, shares in percent. */
export const inShownUnit = (value: number, unit: Unit): number =>
  Number((unit === "rad" ? (value * 180) / Math.PI : unit === "share" ? 100 * value : value).toFixed(6));

/** The value where a label that is dragged so many pixels to the right has come to. */
export const dragged = (value: number, unit: Unit, pixels: number, keys: Keys): number =>
  stepped(value, unit, Math.round(pixels / 2), keys);

/**
 * What was typed, as a value.
 *
 * @param complaint what is wrong with a value, or null
 * @throws InputError with a sentence when it is none, or one that is not allowed
 */
export function typed(text: string, unit: Unit, complaint: (value: number) => string | null): number {
  const value = evaluateExpression(text, unit);
  const wrong = complaint(value);
  if (wrong) throw new InputError(`“${text.trim()}”: ${wrong}`);
  return value;
}
