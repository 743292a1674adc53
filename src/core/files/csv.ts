/** CSV (RFC 4180): one row a placement, world coordinates, metres. Of several frames each row begins with its own. */
import { forEachRow, type EvaluatedScene } from "./evaluated";

export const CSV_COLUMNS = "dressing,key,prop,line,at,px,py,pz,qx,qy,qz,qw,sx,sy,sz,flags";

export const writeCsv = (evaluated: EvaluatedScene): Uint8Array => encoded([CSV_COLUMNS, ...rowsOf(evaluated)]);

/** The rows of a frame; before those of the first the columns' names. */
export const writeCsvFrame = (evaluated: EvaluatedScene, frame: number, isFirst: boolean): Uint8Array =>
  encoded([...(isFirst ? [`frame,${CSV_COLUMNS}`] : []), ...rowsOf(evaluated).map((row) => `${frame},${row}`)]);

function rowsOf(evaluated: EvaluatedScene): string[] {
  const rows: string[] = [];
  forEachRow(evaluated, ({ dressing, key, prop, line, at, position, rotation, scale, flags }) => {
    const texts = [quoted(dressing), key, quoted(prop), quoted(line), at ?? ""];
    rows.push([...texts, ...position, ...rotation, ...scale, flags].join(","));
  });
  return rows;
}

const encoded = (lines: readonly string[]): Uint8Array =>
  new TextEncoder().encode(lines.map((line) => `${line}\r\n`).join(""));

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
