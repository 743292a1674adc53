/** CSV (RFC 4180): one row a placement, world coordinates, metres. */
import { forEachRow, type EvaluatedScene } from "./evaluated";

export const CSV_COLUMNS = "dressing,key,prop,line,at,px,py,pz,qx,qy,qz,qw,sx,sy,sz,flags";

export function writeCsv(evaluated: EvaluatedScene): Uint8Array {
  const lines = [CSV_COLUMNS];
  forEachRow(evaluated, ({ dressing, key, prop, line, at, position, rotation, scale, flags }) => {
    const texts = [quoted(dressing), key, quoted(prop), quoted(line), at ?? ""];
    lines.push([...texts, ...position, ...rotation, ...scale, flags].join(","));
  });
  return new TextEncoder().encode(lines.join("\r\n") + "\r\n");
}

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
