/** PLY, text or binary of either order (G. Turk, 1994): vertices with normals, UVs and colours, faces of any number of corners. */
import { InputError } from "../../schema";
import { toLinear } from "../../image";
import { addPart, emptyDocument, emptyPart, greyOf, trianglesOf, upsideDown } from "./soup";
import type { GivenFile } from "./given";
import type { GltfFile } from "../gltf";

interface Property {
  name: string;
  type: string;
  /** The type of a list's length; null for a single value. */
  counted: string | null;
}

interface Element {
  name: string;
  count: number;
  properties: Property[];
}

const BYTES: Readonly<Record<string, number>> = {
  ...{ char: 1, uchar: 1, short: 2, ushort: 2, int: 4, uint: 4, float: 4, double: 8 },
  ...{ int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8 },
};

const MOST_CORNERS = 10_000;

export function readPly({ name, bytes }: GivenFile): GltfFile {
  const damaged = (why: string) => new InputError(`“${name}” cannot be read: ${why}.`);
  const { format, elements, start } = headOf(bytes, damaged);
  const next = format === "ascii" ? wordsFrom(bytes, start, damaged) : numbersFrom(bytes, start, format, damaged);
  const part = emptyPart("Mesh");
  const index = new Map<string, number[]>();
  const faces: number[][] = [];
  for (const { name: element, count, properties } of elements) {
    // Whatever an element is made of takes a byte at least.
    if (count > bytes.byteLength) throw damaged("it should hold more than it does");
    if (element === "vertex") for (const one of properties) index.set(one.name, []);
    const columns = properties.map((one) => index.get(one.name));
    for (let i = 0; i < count; i++) {
      properties.forEach(({ name: property, type, counted }, k) => {
        if (counted === null) {
          const value = next(type);
          if (element === "vertex") columns[k]!.push(value);
          return;
        }
        const n = next(counted);
        if (!(n >= 0 && n <= MOST_CORNERS)) throw damaged("a list in it has more entries than can be");
        const list = Array.from({ length: n }, () => next(type));
        if (element === "face" && /^vertex_ind(ex|ices)$/.test(property) && n >= 3) faces.push(list);
      });
    }
  }
  const column = (...names: string[]) =>
    names.map((one) => index.get(one)).find((one) => one !== undefined && one.length > 0);
  const [x, y, z] = ["x", "y", "z"].map((axis) => column(axis));
  if (!x || !y || !z || faces.length === 0) throw damaged("there are no faces in it");
  const together = (...lists: (number[] | undefined)[]): number[] =>
    lists.every((list) => list !== undefined) ? x.flatMap((_, i) => lists.map((list) => list![i])) : [];
  part.position = together(x, y, z);
  if (!part.position.every(Number.isFinite)) throw damaged("a vertex in it has a position that is no number");
  part.normal = together(column("nx"), column("ny"), column("nz"));
  part.uv = upsideDown(together(column("s", "u", "texture_u"), column("t", "v", "texture_v")));
  const whole = elements.some(({ properties }) =>
    properties.some((one) => one.name === "red" && BYTES[one.type] === 1),
  );
  part.colour = together(column("red"), column("green"), column("blue")).map((c) => toLinear(whole ? c / 255 : c));
  for (const face of faces) {
    if (!face.every((v) => Number.isInteger(v) && v >= 0 && v < x.length))
      throw damaged("a face in it asks for a vertex that is not there");
    for (const k of trianglesOf(part.position, face)) part.index.push(face[k]);
  }
  const document = emptyDocument();
  part.material = greyOf(document);
  if (part.colour.length > 0) part.material.setBaseColorFactor([1, 1, 1, 1]);
  addPart(document, part);
  return { document, notes: [], packed: true };
}

type Damaged = (why: string) => InputError;
type Next = (type: string) => number;

function headOf(bytes: Uint8Array, damaged: Damaged) {
  const text = new TextDecoder("latin1").decode(bytes.subarray(0, 65536));
  const end = /\bend_header\r?\n/.exec(text);
  const format = /\bformat\s+(ascii|binary_little_endian|binary_big_endian)\b/.exec(text)?.[1];
  if (!text.startsWith("ply") || !end || !format) throw damaged("it is no PLY file");
  const elements: Element[] = [];
  for (const line of text.slice(0, end.index).split(/\r?\n/)) {
    const words = line.trim().split(/\s+/);
    if (words[0] === "element") {
      const count = Number(words[2]);
      if (!Number.isInteger(count) || count < 0) throw damaged("its head is damaged");
      elements.push({ name: words[1], count, properties: [] });
    }
    if (words[0] !== "property") continue;
    const list = words[1] === "list";
    const property = list
      ? { counted: words[2], type: words[3], name: words[4] }
      : { counted: null, type: words[1], name: words[2] };
    if (!(property.type in BYTES) || (list && !(words[2] in BYTES)) || elements.length === 0)
      throw damaged("its head is damaged");
    elements.at(-1)!.properties.push(property);
  }
  return {
    format,
    elements: elements.filter(({ properties }) => properties.length > 0),
    start: end.index + end[0].length,
  };
}

function wordsFrom(bytes: Uint8Array, start: number, damaged: Damaged): Next {
  const words = new TextDecoder().decode(bytes.subarray(start)).split(/\s+/).filter(Boolean);
  let at = 0;
  return () => {
    if (at >= words.length) throw damaged("it is cut short");
    return Number(words[at++]);
  };
}

function numbersFrom(bytes: Uint8Array, start: number, format: string, damaged: Damaged): Next {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = format === "binary_little_endian";
  const read: Readonly<Record<string, (at: number) => number>> = {
    ...{ char: (at) => view.getInt8(at), uchar: (at) => view.getUint8(at) },
    ...{ short: (at) => view.getInt16(at, little), ushort: (at) => view.getUint16(at, little) },
    ...{ int: (at) => view.getInt32(at, little), uint: (at) => view.getUint32(at, little) },
    ...{ float: (at) => view.getFloat32(at, little), double: (at) => view.getFloat64(at, little) },
  };
  const aliases: Readonly<Record<string, string>> = {
    ...{ int8: "char", uint8: "uchar", int16: "short", uint16: "ushort" },
    ...{ int32: "int", uint32: "uint", float32: "float", float64: "double" },
  };
  let at = start;
  return (type) => {
    const from = at;
    at += BYTES[type];
    if (at > bytes.byteLength) throw damaged("it is cut short");
    return read[aliases[type] ?? type](from);
  };
}
