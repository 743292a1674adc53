/** A zip of files that belong together, such as a glTF with its pictures. */
import { unzipSync } from "fflate";
import { InputError } from "../../schema";
import type { GivenFile } from "./given";

/** What a zip may unpack to, and how many files it may hold. */
const MOST_BYTES = 1024 ** 3;
const MOST_FILES = 2000;

export function unpacked({ name, bytes }: GivenFile): GivenFile[] {
  let [total, files] = [0, 0];
  try {
    const entries = unzipSync(bytes, {
      filter: ({ name: path, originalSize }) => {
        if (path.endsWith("/") || /(^|\/)(__MACOSX\/|\.)/.test(path)) return false;
        total += originalSize;
        if (total > MOST_BYTES) throw new InputError(`“${name}” unpacks to more than 1 GB.`);
        if (++files > MOST_FILES)
          throw new InputError(`“${name}” holds more than ${MOST_FILES.toLocaleString("en")} files.`);
        return true;
      },
    });
    return Object.entries(entries).map(([path, content]) => ({ name: path, bytes: content }));
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(`“${name}” cannot be opened: it is no zip, or a damaged one.`);
  }
}
