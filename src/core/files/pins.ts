/**
 * Places of pins as CSV: a row a pin, with the columns `x y z` in world coordinates, metres, or `u v`; besides, if wanted,
 * `surface`, `prop`, `turn` (degrees), `lift` (metres) and `size`.
 */
import Papa from "papaparse";
import { FARTHEST, InputError } from "../schema";
import type { Vec3 } from "../math";

/** One pin as a file names it. */
export interface PinRow {
  /** In the world, metres; null where it is named by texture coordinates. */
  point: Vec3 | null;
  uv: [number, number] | null;
  /** Names, as they are written. */
  surface: string | null;
  prop: string | null;
  /** Radians. */
  turn: number;
  lift: number;
  size: number;
}

const MOST_ROWS = 100_000;
/** So many wrong rows are named. */
const TOLD = 5;

/** @throws InputError that names the rows that are wrong */
export function readPins(bytes: Uint8Array, name: string): PinRow[] {
  const text = new TextDecoder().decode(bytes);
  const { data, meta } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: "greedy",
    preview: MOST_ROWS + 1,
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const has = (...columns: string[]) => columns.every((column) => meta.fields?.includes(column));
  if (!has("x", "y", "z") && !has("u", "v"))
    throw new InputError(`“${name}” names no places: its first row has to name the columns x, y and z, or u and v.`);
  if (data.length > MOST_ROWS) throw new InputError(`“${name}” has more than ${MOST_ROWS.toLocaleString("en")} rows.`);
  const wrong: string[] = [];
  const pins = data.map((row, i): PinRow => {
    const number = (column: string, otherwise: number, most: number) => {
      const written = row[column]?.trim() ?? "";
      const value = written === "" ? otherwise : Number(written);
      if (!Number.isFinite(value) || Math.abs(value) > most)
        wrong.push(`row ${i + 2}: ${column} is “${written.slice(0, 40)}”`);
      return value;
    };
    const word = (column: string) => row[column]?.trim().slice(0, 120) || null;
    const filled = (...columns: string[]) => columns.every((column) => (row[column]?.trim() ?? "") !== "");
    const placed = filled("x", "y", "z");
    const charted = filled("u", "v");
    if (!placed && !charted) wrong.push(`row ${i + 2}: it names no place`);
    const size = number("size", 1, 1e6);
    if (size <= 0) wrong.push(`row ${i + 2}: size is “${row.size}”`);
    return {
      point: placed ? [number("x", NaN, FARTHEST), number("y", NaN, FARTHEST), number("z", NaN, FARTHEST)] : null,
      uv: charted ? [number("u", NaN, FARTHEST), number("v", NaN, FARTHEST)] : null,
      surface: word("surface"),
      prop: word("prop"),
      turn: (number("turn", 0, 1e6) * Math.PI) / 180,
      lift: number("lift", 0, FARTHEST),
      size,
    };
  });
  if (wrong.length > 0) {
    const more = wrong.length > TOLD ? `, and ${wrong.length - TOLD} more` : "";
    throw new InputError(`“${name}” was not taken over: ${wrong.slice(0, TOLD).join("; ")}${more}.`);
  }
  return pins;
}

const COLUMNS = ["surface", "prop", "x", "y", "z", "u", "v", "turn", "lift", "size"];

export function writePins(pins: readonly PinRow[]): Uint8Array {
  const rows = pins.map(({ point, uv, surface, prop, turn, lift, size }) => [
    surface ?? "",
    prop ?? "",
    ...(point ?? ["", "", ""]),
    ...(uv ?? ["", ""]),
    Number(((turn * 180) / Math.PI).toFixed(4)),
    lift,
    size,
  ]);
  return new TextEncoder().encode(`${Papa.unparse({ fields: COLUMNS, data: rows })}\r\n`);
}
