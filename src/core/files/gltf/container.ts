/** The container of a GLB: its header checked, its description and its binary part taken out. */
import { InputError } from "../../schema";

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;

export interface Container {
  /** The description as it was written, unchecked. */
  json: unknown;
  /** The binary part; null for a file without one. */
  binary: Uint8Array | null;
}

const isGlb = (bytes: Uint8Array): boolean => bytes.byteLength >= 4 && viewOf(bytes).getUint32(0, true) === MAGIC;

/**
 * @param name what to call the file in messages
 * @throws InputError when the bytes are no GLB of version 2, or are cut short
 */
export function openContainer(bytes: Uint8Array, name: string): Container {
  const view = viewOf(bytes);
  if (bytes.byteLength < 12 || !isGlb(bytes)) {
    throw new InputError(`“${name}” is not a GLB file. GLB is the binary form of glTF 2.`);
  }
  const version = view.getUint32(4, true);
  if (version !== 2) throw new InputError(`“${name}” is a GLB of version ${version}; only version 2 can be read.`);
  const length = view.getUint32(8, true);
  const cut = `“${name}” is cut short: it should have ${length.toLocaleString("en")} bytes and has ${bytes.byteLength.toLocaleString("en")}. Copy or export it again.`;
  if (bytes.byteLength < Math.max(20, length)) throw new InputError(cut);
  const jsonLength = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + jsonLength > bytes.byteLength) throw new InputError(cut);
  const json = parseDescription(bytes.subarray(20, 20 + jsonLength), name);
  const second = 20 + jsonLength;
  if (second + 8 > bytes.byteLength || view.getUint32(second + 4, true) !== BIN_CHUNK) return { json, binary: null };
  const binaryLength = view.getUint32(second, true);
  if (second + 8 + binaryLength > bytes.byteLength) throw new InputError(cut);
  return { json, binary: bytes.subarray(second + 8, second + 8 + binaryLength) };
}

/** The JSON of a glTF. @throws InputError when it is none */
export function parseDescription(text: Uint8Array, name: string): unknown {
  try {
    return JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(text));
  } catch {
    throw new InputError(`“${name}” cannot be read: its description is damaged.`);
  }
}

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
